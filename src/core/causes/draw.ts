import type { Random, StringRun } from '../simulate';
import { CENTS_PER_LN_TENSION } from '../strings';
import { doTest, type TestSeen } from './answers';
import type { CauseBuild, CauseString } from './kinds';
import type { Cause, CauseTest } from '../codes';
import { tuned, type Specimen } from './specimen';
import { betweenLimitsCents } from '../friction';

/** How far the usual pulls raise a string, by material, over steel: stiffer strings rise more (house estimates). */
const RISES: Partial<Record<CauseString['material'], number>> = {
  'plain-nylon': 0.35,
  'wound-nylon': 0.4,
  fluorocarbon: 0.4,
  gut: 0.55,
  'synthetic-bowed': 0.6,
};
const DEGREE = Math.PI / 180;

const lognormal = (random: Random, middle: number, spread: number) => middle * Math.exp(spread * random.normal());
/** Evenly in logarithms. */
const even = (random: Random, low: number, high: number) => low * (high / low) ** random.uniform();
const sign = (random: Random) => (random.uniform() < 0.5 ? -1 : 1);

/** Cents that a contact costs between its limits: a sound one at most, and one that binds at least; one that binds at most (house estimates). */
const SOUND_MOST = 4;
const BINDS_MOST = 40;

/** What a contact holds, cents of tension: capstan law, friction times wrap, pinched where it binds. @param aside the short length beyond it, over the speaking one */
function contactHolds(random: Random, binds: boolean, isSaddle: boolean, aside: number): number {
  // Many a sound contact holds next to nothing.
  const free = random.uniform() < 0.5 ? even(random, 0.1, 1) : Math.exp(0.55 * random.normal());
  const mu = binds ? random.between(0.15, 0.5) : random.between(0.02, 0.15) * free;
  const degrees = isSaddle
    ? random.between(binds ? 16 : 12, 45)
    : binds
      ? random.between(6, 20)
      : random.between(4, 14);
  const holds = CENTS_PER_LN_TENSION * mu * degrees * DEGREE * (binds ? random.between(1, 2) : 1);
  const perCent = 1 / betweenLimitsCents(1, aside);
  if (!binds) return Math.min(holds, SOUND_MOST * perCent);
  // Many that bind cost little more than a sound one may.
  return random.uniform() < 0.5 ? holds : even(random, SOUND_MOST, BINDS_MOST) * perCent;
}

/** One string with this fault, drawn by chance. @param second another fault beside it */
export function specimenOf(
  cause: Cause,
  build: CauseBuild,
  string: CauseString,
  random: Random,
  second?: Cause,
): Specimen {
  const has = (c: Cause) => cause === c || second === c;
  /** A size in its range where the fault is there; a second one is weaker. */
  const size = (c: Cause, low: number, high: number) =>
    has(c) ? even(random, low, high) * (cause === c ? 1 : random.between(0.4, 1)) : 0;
  const steel = string.material.includes('steel');
  const soft = (RISES[string.material] ?? 1) * (steel ? 1 : random.between(0.7, 1.3));
  const head = Math.max(0.03, (string.headMm ?? random.between(35, 190)) / string.lengthMm);
  const behindTree = build.tree ? random.between(0.05, 0.2) : 0;
  const tail = build.bridge === 'tailpiece' ? random.between(0.12, 0.35) : random.between(0.01, 0.1);
  const lengths = [...(build.tree ? [behindTree] : []), head, 1, tail];
  const speaking = lengths.length - 2;
  const locked = build.nut === 'locking';
  const sliding = {
    tree: contactHolds(random, has('tree-friction'), false, behindTree),
    // A clamp lets nothing by that a hand can pull; a loose one holds a little.
    nut: locked
      ? has('loose-clamp')
        ? even(random, 20, 260)
        : even(random, 500, 1500)
      : contactHolds(random, has('nut-friction'), false, head),
    saddle: contactHolds(random, has('saddle-friction'), true, tail),
  };
  const still = () => random.between(1.1, 1.8);
  const holds = [...(build.tree ? [sliding.tree] : []), sliding.nut, sliding.saddle].map((s) => ({
    still: s * still(),
    sliding: s,
  }));
  const run: StringRun = { lengths, speaking, holds, tensions: lengths.map(() => 0) };
  const person = lognormal(random, 1, 0.38);
  const bend = random.between(80, 220) * person * soft;
  const press = () => random.between(200, 900) * soft;
  const floating = build.bridge === 'floating';
  const worn = has('worn-string');
  const roomy = has('room') ? size('room', 2.5, 28) * sign(random) : random.normal();
  // A peg lets go at a pull, or turns slowly, or both.
  const lets = random.uniform();
  const jolts = random.uniform() < 0.5 ? 1 : 2;
  const lash = has('gear-backlash') ? size('gear-backlash', 3, 26) : random.between(0, 0.8);
  const specimen: Specimen = {
    cause,
    run,
    at: {
      nut: locked ? 0 : betweenLimitsCents(sliding.nut, head),
      tree: build.tree ? betweenLimitsCents(sliding.tree, behindTree) : 0,
      saddle: betweenLimitsCents(sliding.saddle, tail),
    },
    rises: {
      bend,
      bigBend: bend * random.between(1.2, 1.9),
      pressHead: press(),
      pressTree: press(),
      pressTail: press(),
      dive: random.between(250, 650) * soft,
      pullUp: bend * random.between(0.4, 1),
      side: bend * random.between(1, 2.2),
    },
    coil: { holds: has('winding-slip') ? even(random, 3, 90) : Infinity, gives: even(random, 5, 60) },
    peg: {
      holds: has('peg-slip') && lets < 0.75 ? even(random, 3, 150) : Infinity,
      drops: even(random, 5, 80),
      varies: random.between(0.05, 0.5),
      turns: has('peg-slip') && lets > 0.35 ? even(random, 0.3, 18) : 0,
    },
    creep: {
      pool: has('fresh-string') ? size('fresh-string', steel ? 8 : 20, steel ? 90 : 220) : even(random, 0.3, 3),
      pulled: random.between(0.1, 0.5),
      waited: random.between(0.02, 0.2),
      delayed: steel ? random.between(0.001, 0.02) : random.between(0.01, 0.09),
    },
    lash: { cents: lash, jolts, left: string.fromAbove || random.uniform() < 0.3 ? jolts : 0 },
    bridge: {
      span: floating ? (has('pivot-friction') ? size('pivot-friction', 3, 26) : random.between(0, 1)) : 0,
      at: random.between(-1, 1),
      astray: size('springs-moved', 4, 40),
      how: (['once', 'jumps', 'one way'] as const)[Math.floor(3 * random.uniform())]!,
    },
    room: {
      // A room that has changed since may have come to rest.
      perTest: random.between(0.15, 0.5) + 0.1 * Math.abs(roomy) * random.uniform() ** 2,
      warm: (steel ? -4 : -6) * lognormal(random, has('room') ? 1.4 : 0.8, 0.6),
      since: roomy,
    },
    wear: {
      octave: worn ? size('worn-string', 2.5, 16) * sign(random) : 1.3 * random.normal(),
      scatter: worn ? even(random, 0.3, 1.6) : 0,
    },
    reference: has('wrong-reference') ? size('wrong-reference', 2.5, 28) * sign(random) : 0.4 * random.normal(),
    posture: has('neck-flex') ? size('neck-flex', 2, 16) * sign(random) : 0.6 * random.normal(),
    firm: build.frets === false ? 0 : has('pressing') ? random.between(4, 26) : random.between(0, 4),
    reach: random.uniform() < 0.5 ? random.between(0, 0.1) : random.between(0.1, 1),
    relief: random.between(0.03, 0.45),
    since: { own: 0, others: 0, spread: 0, creep: 0, sudden: 0 },
    random,
  };
  tuned(specimen, string.fromAbove === true || random.uniform() < 0.15, TUNED_LEAST);
  specimen.since = lived(specimen, build, has);
  tuned(specimen, string.fromAbove === true || random.uniform() < 0.15, TUNED_LEAST);
  // What slips still slips after it was tuned.
  if (has('winding-slip')) specimen.coil.holds = even(random, 3, 90);
  if (Number.isFinite(specimen.peg.holds)) specimen.peg.holds = even(random, 3, 150);
  return specimen;
}

/** Tuned somehow, each contact stands at so much of what it holds at least. */
const TUNED_LEAST = 0.2;

/** What playing does to a string. */
const PLAYED: readonly CauseTest[] = ['big-bend', 'side-stretch', 'press-behind-nut'];
const BY_BAR: readonly CauseTest[] = [...PLAYED, 'dive', 'pull-up'];
/** So many acts at most, and the time in which they fall, hours. */
const MOST_ACTS = 8;
const HOURS = [0.25, 55] as const;

/** It is played and left alone, as it was since it was last tuned: this string, and the others. */
function lived(s: Specimen, build: CauseBuild, has: (c: Cause) => boolean) {
  const { random } = s;
  const seen: TestSeen[] = [];
  const acts = build.bridge === 'floating' ? BY_BAR : PLAYED;
  const poolBefore = s.creep.pool;
  const many = Math.floor(random.uniform() * (MOST_ACTS + 1));
  for (let k = 0; k < many; k++) seen.push(doTest(s, acts[Math.floor(random.uniform() * acts.length)]!, false, build));
  const hours = even(random, ...HOURS);
  const bedded = poolBefore - s.creep.pool;
  const crept = s.creep.pool * Math.min(0.8, random.between(0.05, 0.25) * Math.log1p(hours));
  s.creep.pool -= crept;
  const turned = s.peg.turns * Math.min(6, hours) * random.between(0.3, 1);
  const sum = (of: (x: TestSeen) => number) => seen.reduce((t, x) => t + of(x), 0);
  const all =
    s.room.since * random.between(0.4, 1.2) -
    (has('wrong-reference') ? s.reference : 0) +
    (s.bridge.how === 'once' ? s.bridge.astray * sign(random) : 0) +
    (has('neck-flex') ? s.posture * random.between(0, 1) : 0) +
    0.5 * random.normal();
  // A whole set is often as new as the string in hand.
  const alike = has('fresh-string') && random.uniform() < 0.5 ? (crept + bedded) * random.between(0.3, 1.2) : 0;
  const own =
    sum((x) => x.own) +
    all * random.between(0.6, 1.4) -
    crept -
    turned +
    (has('worn-string') ? 2 * random.normal() : 0);
  const others = sum((x) => x.others) + all - alike;
  const creep = crept + bedded;
  return {
    own,
    others,
    spread: 0.6 + 0.3 * Math.abs(all) * random.uniform() + 0.3 * alike,
    creep,
    sudden: Math.max(0, -sum((x) => x.own) - bedded) + turned,
  };
}
