import { slide, type Random, type Run } from '../simulate';
import { holdOf } from './friction';
import type { Cause, CauseBuild, CauseString } from './kinds';

/**
 * A string that might be the one in hand, with a fault: it answers to every test in turn, and carries its history. The ranges
 * are wide (house estimates): nobody knows how hard a hand presses or how far this string slid before.
 */
export interface Specimen {
  cause: Cause;
  /** Which contact holds it back, and by how much, in cents of the speaking length's pitch; 0 where none does. */
  run: Run;
  at: { nut: number; tree: number; saddle: number };
  /** Rise in the tensed segment by each way of pulling it, cents. */
  rises: Record<'bend' | 'bigBend' | 'pressHead' | 'pressTree' | 'pressTail' | 'dive' | 'pullUp' | 'side', number>;
  /** What the coil still gives, and the share of it that a pull takes; what the fresh string still creeps. */
  coil: { pool: number; share: number };
  creep: { pool: number; pulled: number; waited: number };
  lash: { cents: number; free: boolean };
  peg: { slip: number; waits: number; tires: number };
  /** A floating bridge that does not come back: cents between where it stays forward and back, where it stands (−1 to 1); by chance, once moved. */
  bridge: { span: number; at: number; astray: number };
  /** What a loose clamp lets by toward either side, cents. */
  clamp: { cents: number; sharp: number; flat: number };
  room: { perTest: number; warm: number; since: number };
  wear: { octave: number; scatter: number };
  reference: number;
  posture: number;
  firm: number;
  /** Since it was tuned: own change, that of the others and their spread; of its own fall, what crept and what went at once. */
  since: { own: number; others: number; spread: number; creep: number; sudden: number };
  random: Random;
}

/** How far the usual pulls raise a string, by material, over steel (house estimates: stiffer strings rise more). */
const RISES: Partial<Record<CauseString['material'], number>> = {
  'plain-nylon': 0.35,
  'wound-nylon': 0.4,
  fluorocarbon: 0.4,
  gut: 0.55,
  'synthetic-bowed': 0.6,
};

const lognormal = (random: Random, middle: number, spread: number) => middle * Math.exp(spread * random.normal());
const sign = (random: Random) => (random.uniform() < 0.5 ? -1 : 1);

/** Cents between both ends of a bridge that binds, over what it strays by in use. */
const BRIDGE_SPAN = 1.3;
/** How many strings stand near their flat limit when one begins. */
const PLAYED = 0.6;
/** Friction at rest over friction while sliding. */
const STICK = [1, 1.6] as const;

/** One string with this fault, drawn by chance. @param second another, weaker fault beside it */
export function specimenOf(
  cause: Cause,
  build: CauseBuild,
  string: CauseString,
  random: Random,
  second?: Cause,
): Specimen {
  const has = (c: Cause) => cause === c || second === c;
  /** Severity of a fault, cents; a second one is weaker. */
  const severity = (c: Cause, middle: number, spread: number) =>
    has(c) ? lognormal(random, middle, spread) * (cause === c ? 1 : random.between(0.3, 0.9)) : 0;
  const soft = RISES[string.material] ?? 1;
  const head = Math.max(0.03, (string.headMm ?? random.between(50, 160)) / string.lengthMm);
  const behindTree = build.tree ? random.between(0.05, 0.2) : 0;
  const tail = build.bridge === 'tailpiece' ? random.between(0.12, 0.35) : random.between(0.01, 0.09);
  const lengths = [...(build.tree ? [behindTree] : []), head, 1, tail];
  const speaking = lengths.length - 2;
  const base = (middle: number) => lognormal(random, middle, 0.7);
  const at = {
    nut: base(0.7) + severity('nut-friction', 12, 0.65),
    tree: build.tree ? base(0.5) + severity('tree-friction', 12, 0.65) : 0,
    saddle: base(0.4) + severity('saddle-friction', 8, 0.65),
  };
  const contact = (pitchCents: number, aside: number) => {
    const sliding = holdOf(pitchCents, aside);
    return { still: sliding * random.between(...STICK), sliding };
  };
  const locked = build.nut === 'locking';
  const holds = [
    ...(build.tree ? [contact(at.tree, behindTree)] : []),
    // A locked nut lets nothing by.
    locked ? { still: Infinity, sliding: Infinity } : contact(at.nut, head),
    contact(locked ? 0.2 : at.saddle, tail),
  ];
  const run: Run = { lengths, speaking, holds, tensions: lengths.map(() => 0) };
  // It was tuned up, or played, since: more often than not it stands near its flat limit.
  const stand = () => {
    // Brought down to pitch it stands near its sharp limit.
    if (string.fromAbove) return -random.between(0.2, 1);
    return random.uniform() < PLAYED ? random.between(0.3, 1) : random.between(-1, 1);
  };
  lengths.forEach((_, i) => {
    if (i === speaking) return;
    const { sliding } = holds[Math.min(i, speaking)]!;
    if (Number.isFinite(sliding)) run.tensions[i]! += sliding * stand();
  });
  const level = run.tensions[speaking]!;
  run.tensions = run.tensions.map((t) => t - level);
  slide(run);
  const rise = (middle: number) => lognormal(random, middle * soft, 0.45);
  const fresh = severity('fresh-string', 38, 0.65);
  const floating = build.bridge === 'floating';
  const pivot = severity('pivot-friction', 10, 0.5);
  const springs = severity('springs-moved', 11, 0.6);
  const peg = severity('peg-slip', 55, 0.8);
  const clamp = severity('loose-clamp', 13, 0.5);
  const worn = has('worn-string');
  const roomy = severity('room', 9, 0.6) * sign(random);
  const reference = severity('wrong-reference', 11, 0.6) * sign(random) + 0.3 * random.normal();
  const flex = severity('neck-flex', 6, 0.5);
  const firm = build.frets === false ? 0 : Math.abs(2 + 1.5 * random.normal());
  const specimen: Specimen = {
    cause,
    run,
    at,
    rises: {
      bend: rise(110),
      bigBend: rise(250),
      pressHead: rise(500),
      pressTree: rise(500),
      pressTail: rise(450),
      dive: rise(800),
      pullUp: rise(120),
      side: rise(220),
    },
    coil: { pool: severity('winding-slip', 20, 0.6) + lognormal(random, 0.5, 0.8), share: random.between(0.5, 0.95) },
    creep: {
      pool: fresh + lognormal(random, 1, 0.8),
      pulled: random.between(0.2, 0.55),
      waited: random.between(0.05, 0.3),
    },
    lash: {
      cents: severity('gear-backlash', 13, 0.5) + lognormal(random, 0.4, 0.7),
      free: string.fromAbove === true || random.uniform() < 0.3,
    },
    peg: { slip: peg, waits: peg * random.between(0.05, 0.4), tires: random.between(0.4, 1) },
    bridge: { span: floating ? BRIDGE_SPAN * pivot + base(0.5) : 0, at: random.between(-1, 1), astray: springs },
    clamp: { cents: clamp, sharp: clamp, flat: clamp },
    room: {
      // A room that has changed since may have come to rest.
      perTest: 0.25 + 0.2 * Math.abs(roomy) * random.uniform() ** 2,
      warm: (string.material.includes('steel') ? -4 : -6) * lognormal(random, has('room') ? 1.8 : 0.7, 0.6),
      since: roomy,
    },
    wear: {
      octave: worn ? sign(random) * lognormal(random, 6, 0.6) : 1.3 * random.normal(),
      scatter: worn ? lognormal(random, 1.1, 0.6) : 0,
    },
    reference,
    posture: (flex > 0 ? flex * sign(random) : 0) + 0.6 * random.normal(),
    firm: firm + severity('pressing', 9, 0.5),
    since: { own: 0, others: 0, spread: 0, creep: 0, sudden: 0 },
    random,
  };
  specimen.since = sinceLast(specimen, { pivot, springs, peg, clamp, reference, flex, has });
  return specimen;
}

interface Sizes {
  pivot: number;
  springs: number;
  peg: number;
  clamp: number;
  reference: number;
  flex: number;
  has: (cause: Cause) => boolean;
}

/** What each fault has done since the string was last tuned: to this string, and to the others. */
function sinceLast(s: Specimen, sizes: Sizes) {
  const { random } = s;
  const held = random.between(0, 1.2) * (s.at.nut + s.at.tree + s.at.saddle) * (random.uniform() < 0.8 ? 1 : -0.5);
  const coil = random.between(0.2, 1) * s.coil.pool;
  const creep = random.between(0.3, 1.5) * s.creep.pool;
  const lash = random.between(0, 1) * s.lash.cents;
  const peg = random.between(0.2, 1.5) * sizes.peg;
  const clamp = random.between(0.2, 1) * sizes.clamp;
  const sudden = coil + peg + clamp;
  const own = -held - creep - lash - sudden + (sizes.has('worn-string') ? 3 * random.normal() : 0);
  const all =
    (sizes.pivot > 0 ? sizes.pivot * random.between(0.3, 1.1) * (random.uniform() < 0.7 ? -1 : 1) : 0) +
    sizes.springs * random.between(0.5, 1.5) * sign(random) +
    s.room.since -
    (sizes.has('wrong-reference') ? sizes.reference : 0) +
    sizes.flex * random.between(0.3, 1) * sign(random) +
    0.8 * random.normal();
  // A whole set is often as new as the string in hand.
  const alike = sizes.has('fresh-string') && random.uniform() < 0.5 ? -random.between(0.3, 1.2) * s.creep.pool : 0;
  const each = 1 + 0.25 * random.normal();
  const spread = 0.7 + 0.3 * Math.abs(all) * random.uniform() + 0.3 * Math.abs(alike);
  return { own: own + all * each + 0.8 * random.normal(), others: all + alike, spread, creep, sudden };
}

/** The same string once more, to try another test on. */
export const copyOf = (s: Specimen, random: Random): Specimen => ({
  ...s,
  run: { ...s.run, tensions: [...s.run.tensions] },
  coil: { ...s.coil },
  creep: { ...s.creep },
  lash: { ...s.lash },
  peg: { ...s.peg },
  bridge: { ...s.bridge },
  clamp: { ...s.clamp },
  random,
});
