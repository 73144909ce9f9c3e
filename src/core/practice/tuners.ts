import type { Random } from '../simulate';
import { clamp } from '../base';

/** Tuners that one can practise on. */
export type TunerToHand = 'geared' | 'peg' | 'pin' | 'fine';

/** A tuner under a hand: where its button is and what it has not passed on. All laws are the house's. */
export interface TunerState {
  kind: TunerToHand;
  /** Degrees that the button turns idly after it is turned the other way. */
  lashDeg: number;
  /** Where the button is within its play: 0 at its lower end. */
  playDeg: number;
  /** Degrees that were pressed and not moved: a peg sticks until it jumps. */
  heldDeg: number;
  /** How far it sticks, degrees. */
  sticksDeg: number;
  /** Cents a degree of the button. */
  centsPerDeg: number;
  /** How far a fine tuner's screw is out, 0 to 1 of its travel. */
  travel: number;
}

/** A fine tuner's whole travel, cents. */
const FINE_TRAVEL_CENTS = 90;
/** A peg that jumps goes further than it was pressed, by up to this share of what it stuck. */
const JUMPS = 0.5;
/** Of a peg that is not pushed in while it is turned, so much of what it was turned runs back. */
const RUNS_BACK = 0.55;

/** A tuner by chance: geared ones have play, pegs stick, pins are coarse. */
export function drawTuner(kind: TunerToHand, random: Random): TunerState {
  const base = { kind, lashDeg: 0, playDeg: 0, heldDeg: 0, sticksDeg: 0, travel: 0.5 };
  switch (kind) {
    case 'geared':
      return { ...base, lashDeg: random.between(4, 18), centsPerDeg: random.between(0.6, 1.1) };
    case 'peg':
      return { ...base, sticksDeg: random.between(1, 4), centsPerDeg: random.between(7, 12) };
    case 'pin':
      return { ...base, sticksDeg: random.between(0.4, 1.2), centsPerDeg: random.between(9, 14) };
    case 'fine':
      return { ...base, centsPerDeg: random.between(0.12, 0.25), travel: random.between(0.3, 0.8) };
  }
}

/**
 * The hand turns the tuner: how the string answers.
 * @param degrees of the button, up positive
 * @param pushed a peg is pushed in while it is turned
 * @returns the tuner afterwards, and cents
 */
export function turned(t: TunerState, degrees: number, pushed: boolean, random: Random): [TunerState, number] {
  switch (t.kind) {
    case 'geared': {
      // The button crosses its play before the post follows.
      const at = t.playDeg + degrees;
      const playDeg = Math.max(0, Math.min(t.lashDeg, at));
      return [{ ...t, playDeg }, (at - playDeg) * t.centsPerDeg];
    }
    case 'fine': {
      const wanted = t.travel + (degrees * t.centsPerDeg) / FINE_TRAVEL_CENTS;
      const travel = clamp(wanted, 0, 1);
      return [{ ...t, travel }, (travel - t.travel) * FINE_TRAVEL_CENTS];
    }
    case 'peg':
    case 'pin': {
      const held = t.heldDeg + degrees;
      if (Math.abs(held) < t.sticksDeg) return [{ ...t, heldDeg: held }, 0];
      const jump = held + Math.sign(held) * JUMPS * t.sticksDeg * random.uniform();
      const stays = t.kind === 'pin' || pushed ? 1 : 1 - RUNS_BACK;
      // The string's pull lets a peg run back, and never up.
      const cents = jump * t.centsPerDeg * (jump > 0 ? stays : 2 - stays);
      return [{ ...t, heldDeg: 0 }, cents];
    }
  }
}
