import type { SinceLast, TestResult } from './kinds';
import type { TestSeen } from './answers';
import type { Specimen } from './specimen';

/** A few readings in a hundred are gross errors: what is that far off is as likely under every cause (house estimates). */
const GROSS_SHARE = 0.04;
const GROSS_CENTS = 30;
/** How far a specimen's answer is off for reasons of its own: at least, and as a share of it (house estimates). */
const LEAST_OFF = 0.8;
const OFF_SHARE = 0.3;

/** Student's density with three degrees of freedom: a heavy tail. */
const studentDensity = (x: number, sd: number): number => {
  const z = x / sd;
  return 0.3676 / (sd * (1 + (z * z) / 3) ** 2);
};

/** Standard deviation of a difference of two readings about what was foretold, cents. */
const spreadAbout = (sigmaCents: number, off: number): number =>
  Math.sqrt(2 * sigmaCents * sigmaCents + LEAST_OFF * LEAST_OFF + off * off);

/** How likely a difference of two readings is where another is foretold, per cent of pitch. */
function near(seen: number, foretold: number, sigmaCents: number, off = OFF_SHARE * foretold): number {
  const sd = spreadAbout(sigmaCents, off);
  return (1 - GROSS_SHARE) * studentDensity(seen - foretold, sd) + GROSS_SHARE * studentDensity(seen, GROSS_CENTS);
}

/** Readings that scatter more than the hand's are the string's, log scale. */
const SCATTER_SPREAD = 0.5;
const OTHERS_SPREAD = 0.8;
const lognear = (seen: number, foretold: number, spread: number): number =>
  (1 - GROSS_SHARE) * studentDensity(Math.log((seen + 0.05) / (foretold + 0.05)), spread) + GROSS_SHARE * 0.1;

/** The second time takes up what the first has left: it is off by a share of that too. */
const LEFT_SHARE = 0.25;
/** With few specimens to judge by, each stands for many: their answers are drawn broader by so much. */
export const FEW = 2;

/** How likely a test's outcome is for a specimen that answers so. @param broad how much broader than it foretold */
export function testLikelihood(
  e: TestResult,
  first: TestSeen,
  second: TestSeen,
  sigmaCents: number,
  broad = 1,
): number {
  const off = broad * OFF_SHARE;
  let p = near(e.first, first.own, sigmaCents, off * first.own);
  if (e.second !== undefined)
    p *= near(e.second, second.own, sigmaCents, Math.hypot(off * second.own, broad * LEFT_SHARE * first.own));
  if (e.others !== undefined) p *= near(e.others, first.others, 0.6 * sigmaCents);
  if (e.scatter !== undefined) p *= lognear(e.scatter, Math.hypot(sigmaCents, first.scatter), SCATTER_SPREAD);
  return p;
}

/** So many standard deviations about what it foretold a specimen explains (house). */
const EXPLAINS_SD = 3;
/** Does a specimen that answers so explain what was read, both times? */
export function explains(e: TestResult, first: TestSeen, second: TestSeen, sigmaCents: number): boolean {
  const within = (seen: number | undefined, foretold: number, off: number) =>
    seen === undefined || Math.abs(seen - foretold) < EXPLAINS_SD * spreadAbout(sigmaCents, off);
  return (
    within(e.first, first.own, OFF_SHARE * first.own) &&
    within(e.second, second.own, Math.hypot(OFF_SHARE * second.own, LEFT_SHARE * first.own)) &&
    within(e.others, first.others, OFF_SHARE * first.others)
  );
}

/** How well a specimen explains what a string lost since it was last left; a density, 1/cents. */
export const sinceLikelihood = (e: SinceLast, { since }: Specimen, sigmaCents: number): number =>
  near(e.own, since.own, sigmaCents) *
  near(e.others, since.others, sigmaCents) *
  lognear(e.othersSd, Math.hypot(since.spread, sigmaCents), OTHERS_SPREAD);
