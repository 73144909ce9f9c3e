import { randomFrom } from '../simulate';
import type { CauseBuild } from './kinds';
import { TOLD, type ToldQuestion, type Cause, type Told } from '../codes';
import { doTest } from './answers';
import { copyOf, type Specimen } from './specimen';

/** What the log tells beside how far the strings went. */
export interface Logged {
  /** Sudden drops that a second pluck confirmed, since it was strung. */
  slips?: number | undefined;
  /** What a string of its material and age would have fallen since it was tuned, cents. */
  creepCents?: number | undefined;
  /** Warmer than when it was tuned, deg C. */
  warmerC?: number | undefined;
  /** Causes that were treated, and it did not help. */
  tried?: readonly Cause[] | undefined;
}

/** Every question with its answers, in our own words; those that an instrument cannot have are left out. */
export const QUESTIONS: Record<ToldQuestion, { words: string; answers: Record<string, string> }> = {
  when: {
    words: 'When does it go?',
    answers: {
      bending: 'While I bend or play hard',
      bar: 'With the bar',
      'left-alone': 'Overnight, left alone',
      room: 'When the room changes',
      fretting: 'Only where I press it',
    },
  },
  strings: { words: 'Which strings go?', answers: { one: 'This one', some: 'A few', all: 'All of them' } },
  way: { words: 'Which way?', answers: { flat: 'Flat', sharp: 'Sharp', either: 'Sometimes flat, sometimes sharp' } },
  after: {
    words: 'What happened before it began?',
    answers: {
      strung: 'New strings',
      carried: 'A journey, or dry weather',
      'worked-on': 'Work on nut, bridge or springs',
      nothing: 'Nothing that I know',
    },
  },
  feel: {
    words: 'How does it turn while you tune?',
    answers: {
      creaks: 'It creaks, or the pitch jumps',
      play: 'First nothing happens, then it moves',
      gives: 'The peg does not hold where I leave it',
      smooth: 'Smoothly',
    },
  },
};

/** The answers that an instrument of this build can give. */
export const answersOf = (asked: ToldQuestion, build: CauseBuild): string[] =>
  TOLD[asked].filter(
    (a) =>
      (a !== 'bar' || build.bridge === 'floating') &&
      (a !== 'fretting' || build.frets !== false) &&
      (a !== 'play' || build.tuners === 'geared') &&
      (a !== 'gives' || build.tuners !== 'geared'),
  );

/** How much likelier a cause is after that than otherwise (house estimates; all others 1). */
const AFTER: Record<(typeof TOLD)['after'][number], Partial<Record<Cause, number>>> = {
  strung: { 'fresh-string': 4, 'winding-slip': 3, 'worn-string': 0.3 },
  carried: { room: 2.5, 'peg-slip': 1.8, 'springs-moved': 1.5, 'wrong-reference': 1.5 },
  'worked-on': { 'springs-moved': 4, 'loose-clamp': 3, 'pivot-friction': 1.5, 'saddle-friction': 1.5 },
  nothing: { 'fresh-string': 0.5, 'springs-moved': 0.5 },
};
/** What nobody is sure of: this share of the answers is as good as drawn by lot (house estimate). */
const GUESSED = 0.15;
/** So often a cause is there still after it was treated: it was not done well, or not all of it (house estimate). */
const TREATED = 0.15;
/** Changes below this are not noticed while playing, cents. */
const NOTICED = 1.5;
/** Spread of the creep that a forecast tells, log scale, and of what a degree makes, cents (house estimates). */
const CREEP_SPREAD = 1;
const ROOM_SPREAD = 4;

const share = <K extends string>(weights: Record<K, number>, key: K): number => {
  const all = Object.values<number>(weights);
  return (1 - GUESSED) * (weights[key] / all.reduce((a, b) => a + b, 0)) + GUESSED / all.length;
};
const normalDensity = (x: number, sd: number): number => Math.exp((-x * x) / (2 * sd * sd)) / sd;

/** What each occasion does to this string, cents: the answer to 'when' is the largest of them, most likely. */
function occasions(s: Specimen, build: CauseBuild): Record<(typeof TOLD)['when'][number], number> {
  const change = (test: Parameters<typeof doTest>[1]) =>
    Math.abs(doTest(copyOf(s, randomFrom(1)), test, false, build).own);
  return {
    bending: NOTICED + change('side-stretch'),
    bar: build.bridge === 'floating' ? NOTICED + change('dive') : 0,
    'left-alone': NOTICED + 3 * change('wait'),
    room: NOTICED + Math.abs(s.room.since),
    fretting: build.frets === false ? 0 : NOTICED + Math.max(0, s.firm - 3),
  };
}

/** Friction or play below this is not felt at the tuner, cents; a peg that slips lets go, as felt, like so much of it (house estimates). */
const FELT = 3;
const SLIPS_FELT = 15;

/** What a hand feels at the tuner, cents: the answer to 'how does it turn' is the largest of them, most likely. */
const feelings = ({ at, lash, peg }: Specimen, build: CauseBuild): Record<(typeof TOLD)['feel'][number], number> => ({
  creaks: Math.max(0, at.nut, at.tree, at.saddle),
  play: build.tuners === 'geared' ? lash.cents : 0,
  gives: build.tuners !== 'geared' && (Number.isFinite(peg.holds) || peg.turns > 0) ? SLIPS_FELT : 0,
  smooth: FELT,
});

/** How likely what was told, and what stands in the log, is for this string; from how it answers, never from a table of signs. */
export function toldLikelihood(told: Told & Logged, s: Specimen, build: CauseBuild): number {
  const { own, others, creep, sudden } = s.since;
  let p = 1;
  if (told.when) p *= share(occasions(s, build), told.when);
  if (told.strings) {
    const all = NOTICED + Math.abs(others);
    const alone = NOTICED + Math.abs(own - others);
    p *= share({ one: alone, some: 0.6 * Math.min(all, alone), all }, told.strings);
  }
  if (told.way) {
    const flat = 1 / (1 + Math.exp(own / 1.2));
    p *= share({ flat, sharp: 1 - flat, either: 0.5 * Math.exp(-Math.abs(own) / 4) + s.wear.scatter / 4 }, told.way);
  }
  if (told.after) p *= AFTER[told.after][s.cause] ?? 1;
  if (told.feel) p *= share(feelings(s, build), told.feel);
  if (told.slips !== undefined) {
    const falls = sudden / (sudden + creep + 3);
    p *= told.slips > 0 ? 0.05 + 0.9 * falls : 1 - 0.5 * falls;
  }
  if (told.creepCents !== undefined)
    p *= 0.1 + normalDensity(Math.log((creep + 1) / (Math.max(0, told.creepCents) + 1)), CREEP_SPREAD);
  if (told.warmerC !== undefined)
    p *= 0.03 + normalDensity(s.room.since - (s.room.warm / 3) * told.warmerC, ROOM_SPREAD);
  if (told.tried?.includes(s.cause)) p *= TREATED;
  return p;
}
