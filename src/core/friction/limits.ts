import { pull } from '../simulate';
import { CENTS_PER_LN_TENSION } from '../strings';
import { clamp } from '../base';

/** What a string can lose and gain between its two limits: after a hard bend, and after a press behind the nut. */
export interface FrictionFigure {
  /** From its flat limit to its sharp one, cents, and its standard error. */
  cents: number;
  sdCents: number;
  /** Coefficient of friction times angle of wrap, with its standard error. */
  muTheta: number;
  muThetaSd: number;
  /** Where it stood between them, −1 flat to 1 sharp. */
  at: number;
  /** What a bend by a whole tone takes from it, from where it stood and from its sharp limit, cents. */
  bendCents: number;
  worstBendCents: number;
}

/** Nut to tuner where nobody measured it, share of the speaking length (house estimate). */
const USUAL_HEAD = 0.15;
const WHOLE_TONE = 200;
/** Pairs of readings in one measurement. */
const PAIRS = 2;

/** What a contact holds, cents of tension either way, from what it costs in pitch between its two limits. @param aside the shorter side over the speaking length */
export const holdOf = (pitchCents: number, aside: number): number => (pitchCents * (1 + aside)) / aside / 2;

/**
 * The same the other way: cents of pitch between its two limits, from what it holds.
 * @param holds cents of tension either way
 * @param aside the shorter side over the speaking length
 */
export const betweenLimitsCents = (holds: number, aside: number): number => (2 * holds * aside) / (1 + aside);

/** Cents between both limits of a contact, as friction times wrap: mu theta = H ln 2 / (1200 beta), beta = aside / (1 + aside). */
export const muThetaOf = (pitchCents: number, aside: number): number =>
  holdOf(pitchCents, aside) / CENTS_PER_LN_TENSION;

/** What a bend leaves of the pitch of a string that stands so between its limits. @param aside head over speaking length */
function afterBend(cents: number, aside: number, at: number): number {
  const hold = holdOf(cents, aside);
  const run = {
    lengths: [aside, 1],
    speaking: 1,
    holds: [{ still: hold, sliding: hold }],
    tensions: [-at * hold, 0],
  };
  pull(run, 1, WHOLE_TONE);
  return run.tensions[1]!;
}

/**
 * The friction figure of one measurement, by the capstan law in logarithms (Euler, Eytelwein; docs/physics.md).
 * @param flatCents flat limit against where it stood, sharpCents the sharp one, means of two readings each
 * @param sigmaCents standard error of one reading
 * @param aside nut to tuner over speaking length; undefined where nobody measured it
 */
export function frictionFigure(
  flatCents: number,
  sharpCents: number,
  sigmaCents: number,
  aside = USUAL_HEAD,
): FrictionFigure {
  const cents = Math.max(0, sharpCents - flatCents);
  const sdCents = Math.sqrt(2 / PAIRS) * sigmaCents;
  const at = cents > 0 ? clamp((-2 * flatCents) / cents - 1, -1, 1) : 0;
  return {
    cents,
    sdCents,
    muTheta: muThetaOf(cents, aside),
    muThetaSd: muThetaOf(sdCents, aside),
    at,
    bendCents: afterBend(cents, aside, at),
    worstBendCents: afterBend(cents, aside, 1),
  };
}
