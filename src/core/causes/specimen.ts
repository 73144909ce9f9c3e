import { slide, type Random, type StringRun } from '../simulate';
import type { Cause } from '../codes';

/**
 * A string that might be the one in hand, with a fault: it answers to every test in turn, and carries its history. The ranges
 * are wide on purpose (house estimates): nobody knows how hard a hand presses or how far this string slid before, and a finder
 * that was shown narrow ranges is sure where it is wrong.
 */
export interface Specimen {
  cause: Cause;
  run: StringRun;
  /** What each contact costs between its two limits, cents of the speaking length's pitch. */
  at: { nut: number; tree: number; saddle: number };
  /** Rise in the tensed segment by each way of pulling it, cents. */
  rises: Record<'bend' | 'bigBend' | 'pressHead' | 'pressTree' | 'pressTail' | 'dive' | 'pullUp' | 'side', number>;
  /** What it holds above the present tension before it gives, and by how much, cents; Infinity where it is sound. */
  coil: { holds: number; gives: number };
  peg: { holds: number; drops: number; varies: number; turns: number };
  /** What a fresh string still beds, shares of it that a pull and ten minutes take, and what comes back late of a pull. */
  creep: { pool: number; pulled: number; waited: number; delayed: number };
  /** Lash, in how many jolts, and how many are left. */
  lash: { cents: number; jolts: number; left: number };
  /** A floating bridge that does not come back: cents between where it stays forward and back, where it stands (−1 to 1); how far it jumps or creeps astray. */
  bridge: { span: number; at: number; astray: number; how: 'once' | 'jumps' | 'one way' };
  room: { perTest: number; warm: number; since: number };
  wear: { octave: number; scatter: number };
  reference: number;
  posture: number;
  firm: number;
  /** Share of a press beside the speaking length that coil and peg feel. */
  reach: number;
  /** Share of what is stuck that a pluck shakes loose. */
  relief: number;
  /** Since it was tuned: own change, that of the others and their spread; of its own fall, what crept and what went at once. */
  since: { own: number; others: number; spread: number; creep: number; sudden: number };
  random: Random;
}

/** Brought to pitch: from below the head pulls it over nut and saddle, from above it lets it back. @param least share of what each contact holds */
export function tuned({ run, lash, random }: Specimen, fromAbove: boolean, least: number): void {
  const { holds, speaking, tensions } = run;
  const toward = fromAbove ? -1 : 1;
  const level = tensions[speaking]!;
  tensions.forEach((_, i) => {
    if (i === speaking) return;
    const { sliding } = holds[Math.min(i, speaking)]!;
    tensions[i] = level + (i < speaking ? toward : -toward) * sliding * random.between(least, 1);
  });
  slide(run);
  if (fromAbove) lash.left = lash.jolts;
}

/** A copy that takes from another specimen of its cause what no test has touched yet. Else all copies of one lucky string would answer alike to the tests to come. */
export function crossed(s: Specimen, donor: Specimen, done: ReadonlySet<string>, random: Random): Specimen {
  const copy = copyOf(s, random);
  if (!done.has('wait')) {
    copy.peg.turns = donor.peg.turns;
    copy.creep.waited = donor.creep.waited;
  }
  if (!done.has('warm')) copy.room = { ...copy.room, warm: donor.room.warm };
  if (!done.has('octave')) copy.wear = { ...copy.wear, octave: donor.wear.octave };
  if (!done.has('reference')) copy.reference = donor.reference;
  if (!done.has('posture')) copy.posture = donor.posture;
  if (!done.has('firm-fret')) copy.firm = donor.firm;
  return copy;
}

/** The same string once more, to try another test on. Field by field: it is done thousands of times an answer. */
export function copyOf(s: Specimen, random: Random): Specimen {
  const { run, coil, peg, creep, lash, bridge } = s;
  return {
    cause: s.cause,
    run: { lengths: run.lengths, speaking: run.speaking, holds: run.holds, tensions: run.tensions.slice() },
    at: s.at,
    rises: s.rises,
    coil: { holds: coil.holds, gives: coil.gives },
    peg: { holds: peg.holds, drops: peg.drops, varies: peg.varies, turns: peg.turns },
    creep: { pool: creep.pool, pulled: creep.pulled, waited: creep.waited, delayed: creep.delayed },
    lash: { cents: lash.cents, jolts: lash.jolts, left: lash.left },
    bridge: { span: bridge.span, at: bridge.at, astray: bridge.astray, how: bridge.how },
    room: s.room,
    wear: s.wear,
    reference: s.reference,
    posture: s.posture,
    firm: s.firm,
    reach: s.reach,
    relief: s.relief,
    since: s.since,
    random,
  };
}
