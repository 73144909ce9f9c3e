import { randomFrom } from './random';
import { touchCents, type FrettedTruth, type Touch } from './fretted';
import type { PluckSpec } from './voice';
import { HOUR, MINUTE } from '../base';

/** A hidden fault of a simulated string: what it costs in cents, and where the string stands between its limits, −1 flat to 1 sharp. */
export interface FaultTruth {
  kind: 'nut' | 'tree' | 'peg' | 'pin';
  cents: number;
  at: number;
}

/** How a simulated string behaves: physical truth, serialisable, kept apart from the estimator's laws. */
export interface StringTruth {
  stringId: string;
  targetHz: number;
  strungMs: number;
  /** Fall per e-fold of age in its middle life, cents. */
  creepCents: number;
  /** Share by which bring-ups renew creep. */
  renewal: number;
  /** Cents per deg C. */
  tempCoefficient: number;
  inharmonicity: number;
  /** Ring time of the first partial, s. */
  decayS: number;
  rolloff: number;
  seed: number;
  /** Where it stood when strung, cents from target. */
  startCents: number;
  turns: { atMs: number; cents: number }[];
  slips: { atMs: number; cents: number }[];
  /** Drops by stretching it by hand; each also takes some of the creep that was still to come. */
  stretches?: { atMs: number; cents: number }[];
  /** How far above its target it breaks, cents; undefined where its strength is unknown. */
  breakCents?: number;
  brokenMs?: number;
  /** What is wrong with how it is held; hidden. */
  faults?: FaultTruth[];
  /** No string: neither a sharp start nor two planes. */
  still?: true;
  /** Frets, saddle, wear; undefined where no frets are simulated. */
  fretted?: FrettedTruth;
}

/** Relaxation times of the creep, min: half a minute to two months, in steps of 5. */
const TIMES = Array.from({ length: 8 }, (_, i) => 0.5 * 5.3 ** i);

/** Creep of a string (a sum of relaxations, Prony), about one per e-fold of age. */
function creep(ageMin: number, seed: number): number {
  const random = randomFrom(seed);
  const weights = TIMES.map(() => random.between(0.75, 1.25) * Math.log(5.3));
  return ageMin <= 0 ? 0 : TIMES.reduce((s, T, i) => s - weights[i]! * Math.expm1(-ageMin / T), 0);
}

/** What a stretch leaves of the creep to come (house). */
const CALMER = 0.8;

/** The room of the demonstration, deg C: a stove by day, damp evenings. */
export function roomTempC(atMs: number): number {
  const hours = atMs / HOUR;
  return 19.4 + 1.6 * Math.sin((2 * Math.PI * (hours - 10)) / 24) + 0.4 * Math.sin((2 * Math.PI * hours) / 5.3);
}

/** A turn of so many cents sets all creep going again; and what nut and saddle drag back after a turn: the simulator's own constants. */
const RENEWED_BY_CENTS = 1000;
const DRAG = { cents: 0.35, share: 0.017, most: 70, minutes: 1.2 };

/** Where the string truly stands, cents from its target. */
export function trueCents(string: StringTruth, atMs: number): number {
  const age = (ms: number) => (atMs - ms) / MINUTE;
  const stretches = (string.stretches ?? []).filter((s) => s.atMs <= atMs);
  const creepAt = (ms: number) => creep((ms - string.strungMs) / MINUTE, string.seed);
  let cents = string.startCents;
  let sinceMs = string.strungMs;
  let pace = string.creepCents;
  for (const stretch of [...stretches, undefined]) {
    const untilMs = stretch?.atMs ?? atMs;
    cents -= pace * (creepAt(untilMs) - creepAt(sinceMs)) + (stretch?.cents ?? 0);
    sinceMs = untilMs;
    pace *= CALMER;
  }
  cents += string.tempCoefficient * (roomTempC(atMs) - roomTempC(string.strungMs));
  for (const turn of string.turns) {
    if (turn.atMs > atMs) continue;
    const renewed = (string.renewal * Math.max(0, turn.cents)) / RENEWED_BY_CENTS;
    const friction = DRAG.cents + DRAG.share * Math.min(DRAG.most, Math.abs(turn.cents));
    cents +=
      turn.cents -
      renewed * string.creepCents * creep(age(turn.atMs), string.seed) +
      friction * Math.expm1(-age(turn.atMs) / DRAG.minutes);
  }
  for (const slip of string.slips) if (slip.atMs <= atMs) cents -= slip.cents;
  return cents;
}

/**
 * The pluck that this string gives at its target pitch; the caller bends it to where the string stands.
 * @param hardness of the pluck, 0 soft to 1 hard
 * @param pluckSeed chance of this pluck
 */
export function pluckOf(string: StringTruth, hardness: number, pluckSeed: number): PluckSpec {
  const random = randomFrom(string.seed * 31 + pluckSeed);
  return {
    frequencyHz: string.targetHz,
    inharmonicity: string.inharmonicity,
    pluckAt: random.between(0.11, 0.2),
    rolloff: string.rolloff,
    decayS: string.decayS,
    damping: 0.12,
    secondShare: string.still ? 0 : random.between(0.1, 0.3),
    secondCents: 0.15,
    secondLonger: 2,
    glideCents: string.still ? 0 : 3 * hardness,
    level: 0.15 + 0.35 * hardness,
    attack: 0.1,
  };
}

/** A steel fork changes by so much a degree, cents, from 20 deg C (house estimate). */
export const STEEL_PER_DEGREE = -0.19;

/** A tuning fork: nearly a pure tone, a little flatter in the warm (steel, house estimate). */
export const forkTruth = (frequencyHz: number): StringTruth => ({
  stringId: 'fork',
  targetHz: frequencyHz,
  strungMs: 0,
  creepCents: 0,
  renewal: 0,
  tempCoefficient: STEEL_PER_DEGREE,
  inharmonicity: 0,
  decayS: 4,
  rolloff: 3,
  seed: 1,
  startCents: 0,
  turns: [],
  slips: [],
  still: true,
});

/** A free reed: many partials, long held. */
export const reedTruth = (frequencyHz: number): StringTruth => ({
  ...forkTruth(frequencyHz),
  tempCoefficient: 0,
  rolloff: 1,
  decayS: 6,
});

/** The string as it sounds when it is touched so: another pitch, the stiffness of the part that sounds, fewer partials. */
export function touched(string: StringTruth, touch: Touch): StringTruth {
  const { fretted } = string;
  const away = fretted
    ? touchCents(fretted, touch) - touchCents(fretted, { kind: 'open' })
    : touch.kind === 'open'
      ? 0
      : touch.kind === 'harmonic'
        ? 1200
        : 100 * touch.fret;
  const ratio = Math.pow(2, away / 1200);
  return {
    ...string,
    targetHz: string.targetHz * ratio,
    inharmonicity: string.inharmonicity * ratio * ratio,
    decayS: string.decayS * Math.pow(ratio, -0.3),
  };
}
