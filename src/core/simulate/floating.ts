import { disturb } from './faults';
import { turnString } from './hands';
import { randomFrom } from './random';
import type { StringTruth } from './truth';
import { angleAt, momentAt, pitchAt, tensionAt, type ExactBridge } from './exact-bridge';

/** A simulated floating bridge: exact, with a knife edge that sticks. Strings in the instrument's order. */
export interface BridgeTruth {
  exact: ExactBridge;
  /** Angle forward, rad. */
  angle: number;
  /** Moment that the knife edge holds against, N mm. */
  sticks: number;
  screwPitchMm: number;
  /** Blocked, or against a stop: it stays where it is. */
  held?: boolean;
}

/** What a builder would have to know of it: lengths mm, tensions N. Level at these tensions. */
export interface BridgeMaking {
  scaleMm: number;
  strings: { tensionN: number; axialN: number; frequencyHz: number; leverMm: number; behindMm: number }[];
  springs: { count: number; rateNPerMm: number; armMm: number };
  screwPitchMm: number;
  sticks: number;
}

/** A bridge that stands level with its strings at pitch. */
export function makeBridge({ scaleMm, strings, springs, screwPitchMm, sticks }: BridgeMaking): BridgeTruth {
  const { count, rateNPerMm, armMm } = springs;
  const CLAW = 95;
  const pull = strings.reduce((s, x) => s + x.tensionN * x.leverMm, 0) / (count * armMm);
  return {
    angle: 0,
    sticks,
    screwPitchMm,
    exact: {
      strings: strings.map(({ tensionN, axialN, frequencyHz, leverMm, behindMm }) => ({
        axialN,
        behindMm,
        massKgPerM: tensionN / (2e-3 * scaleMm * frequencyHz) ** 2,
        nut: { alongMm: -scaleMm, aboveMm: leverMm },
        saddle: { alongMm: 0, aboveMm: leverMm },
        slackMm: (scaleMm + behindMm) / (1 + tensionN / axialN),
      })),
      springs: {
        count,
        rateNPerMm,
        slackMm: CLAW - pull / rateNPerMm,
        hook: { alongMm: 0, aboveMm: -armMm },
        claw: { alongMm: -CLAW, aboveMm: -armMm },
      },
    },
  };
}

/** Where it comes to rest from an angle: it moves only as far as the knife edge lets it. */
function rest(exact: ExactBridge, from: number, sticks: number): number {
  const moment = momentAt(exact, from);
  return Math.abs(moment) <= sticks ? from : angleAt(exact, Math.sign(moment) * sticks);
}

interface Moved {
  strings: StringTruth[];
  bridge: BridgeTruth;
}

/** All strings follow what the bridge did to them; the one that was turned by its tuner. */
function follow(
  strings: readonly StringTruth[],
  before: BridgeTruth,
  exact: ExactBridge,
  atMs: number,
  turned: number,
  from = before.angle,
): Moved {
  const angle = before.held ? before.angle : rest(exact, from, before.sticks);
  const moved = strings.map((s, i) => {
    const cents = 1200 * Math.log2(pitchAt(exact.strings[i]!, angle) / pitchAt(before.exact.strings[i]!, before.angle));
    if (!Number.isFinite(cents) || s.brokenMs !== undefined) return s;
    return i === turned ? turnString(s, atMs, cents) : { ...s, slips: [...s.slips, { atMs, cents: -cents }] };
  });
  return { strings: moved, bridge: { ...before, exact, angle } };
}

/** A tuner is turned by what would be so many cents if the bridge stood still: it gives way, and the others move. */
export function turnOnBridge(
  strings: readonly StringTruth[],
  bridge: BridgeTruth,
  stringId: string,
  atMs: number,
  cents: number,
): Moved {
  const at = strings.findIndex((s) => s.stringId === stringId);
  const own = bridge.exact.strings[at];
  if (!own) return { strings: [...strings], bridge };
  const tension = tensionAt(own, bridge.angle) * Math.pow(2, cents / 600);
  const stretched = own.slackMm * (1 + tensionAt(own, bridge.angle) / own.axialN);
  const slackMm = stretched / (1 + tension / own.axialN);
  const exact = { ...bridge.exact, strings: bridge.exact.strings.map((s, i) => (i === at ? { ...s, slackMm } : s)) };
  return follow(strings, bridge, exact, atMs, at);
}

/** Both screws of the claw are turned alike, tightened positive. */
export function turnClaw(strings: readonly StringTruth[], bridge: BridgeTruth, atMs: number, turns: number): Moved {
  const { springs } = bridge.exact;
  const claw = { ...springs.claw, alongMm: springs.claw.alongMm - turns * bridge.screwPitchMm };
  return follow(strings, bridge, { ...bridge.exact, springs: { ...springs, claw } }, atMs, -1);
}

/** It is blocked, or let go. */
export const holdBridge = (strings: readonly StringTruth[], bridge: BridgeTruth, atMs: number, held: boolean): Moved =>
  follow(strings, { ...bridge, held }, bridge.exact, atMs, -1);

/** So far forward the bar takes the bridge in a dive, rad (house). */
const DIVE_RAD = 0.15;

/** The bar goes down and back: the knife edge holds the bridge a little forward, and every string does what its own contacts do. */
export function dive(strings: readonly StringTruth[], bridge: BridgeTruth, atMs: number): Moved {
  const moved = follow(strings, bridge, bridge.exact, atMs, -1, bridge.angle + DIVE_RAD);
  return { ...moved, strings: moved.strings.map((s) => disturb(s, atMs, 'dive')) };
}

/** The clamps at the nut are closed: each bends its string a little, always by about as much (house: -1 to +5 cents). */
export function lockNut(strings: readonly StringTruth[], bridge: BridgeTruth, atMs: number): Moved {
  return strings.reduce<Moved>(
    (so, { stringId, seed }) => turnOnBridge(so.strings, so.bridge, stringId, atMs, randomFrom(seed).between(-1, 5)),
    { strings: [...strings], bridge },
  );
}
