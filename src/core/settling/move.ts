import { normalDensity } from '../base';

/*
 * A figure that nobody expected: did the string move at once, by a hand, a slip or another reference, or is the figure wrong? Until a second
 * reading says which, both are believed, each by its odds. House estimates.
 */

/** How likely a figure is to be wrong before it is looked at: typed by a person, heard and identified, of unknown source. */
export const GROSS_CHANCE = { typed: 1 / 60, heard: 1 / 1000, unknown: 1 / 100 } as const;

/** A string is moved without a word between two readings: at once, and more often the longer it is out of sight, min. */
const MOVED_AT_ONCE = 0.008;
const MOVED_IN_TIME = 0.02;
const OUT_OF_SIGHT_MIN = 600;
/** What is tuned is left so far from its target on purpose, or by another reference, in this share. */
export const ELSEWHERE_CHANCE = 0.03;
/** Strings are moved by so much: slips and tuning by somebody; another pitch. Share and standard deviation, cents. */
const MOVES: readonly [share: number, sd: number][] = [
  [0.75, 15],
  [0.25, 60],
];
/** Of moves by which something gives way most are downward. */
const DOWNWARD = 0.65;
/** A wrong figure lies near the right one, or anywhere: share and standard deviation, and the width of anywhere, cents. */
const NEAR_SHARE = 0.6;
const NEAR_CENTS = 35;
const ANYWHERE_CENTS = 2600;

/** A move leaves a string anywhere within this of where it was, standard deviation, cents. */
export const MOVED_SD_CENTS = 300;

/** Chance that a string was moved since it was read so long ago, before it is looked at. */
export const movedChance = (sinceMin: number): number =>
  MOVED_AT_ONCE + MOVED_IN_TIME * (1 - Math.exp(-sinceMin / OUT_OF_SIGHT_MIN));

/**
 * How likely a move is to leave a string so far from where it was expected, a cent.
 * @param v how far it lies off, cents
 * @param variance of what was expected, cents²
 */
export function moveDensity(v: number, variance: number): number {
  const way = 2 * (v < 0 ? DOWNWARD : 1 - DOWNWARD);
  return MOVES.reduce((sum, [share, sd]) => sum + share * way * normalDensity(v, variance + sd * sd), 0);
}

/**
 * How likely a wrong figure is to lie so far from the right one, a cent.
 * @param v how far it lies off, cents
 */
export const grossDensity = (v: number, variance: number): number =>
  NEAR_SHARE * normalDensity(v, variance + NEAR_CENTS ** 2) + (1 - NEAR_SHARE) / ANYWHERE_CENTS;
