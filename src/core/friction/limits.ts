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

/** The same the other way: cents of pitch between its two limits, from what it holds. */
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

/** Nearer to a limit than this, of the half way between: it stands there. */
const AT_A_LIMIT = 0.5;
/** Friction below this, cents, needs no trick. */
const NO_TRICK = 2;

/** Where the playing will leave it, and so where to end. */
export function trickWords({ cents, sdCents, at }: FrictionFigure): string {
  if (cents < NO_TRICK + sdCents) return 'Free enough. No trick is needed.';
  if (at < -AT_A_LIMIT) return 'It is where bends leave it. Stay there: end every tuning with a bend.';
  if (at > AT_A_LIMIT)
    return 'It is at its sharp limit: the first bend drops it. Bend it, then bring it up from below.';
  return 'It is between its limits: bends take it down. Bend it, then bring it up from below.';
}

/** One figure of a string, and how long ago its slot was lubricated. */
export interface LubricantPoint {
  days: number;
  cents: number;
  sdCents: number;
  /** The last figure before that, and the first one after it. */
  beforeCents: number;
  afterCents: number;
}
export interface Lasting {
  /** Half of what it gained is gone after so many days, and between which it may be. */
  days: number;
  low: number;
  high: number;
}

const LEAST_POINTS = 3;
/** A gain below this tells nothing of how long it lasts, cents. */
const LEAST_GAIN = 3;
/** Figures vary by this share from day to day beside their own error (house estimate). */
const DAY_TO_DAY = 0.15;
const HALF_LIVES = Array.from({ length: 60 }, (_, k) => 1.5 * 1.1 ** k);
/** Squared distance within which a half-life is as good as the best: nine of ten (chi-square, one degree of freedom). */
const AS_GOOD = 2.71;

/** How long a lubricant lasts, from figures at different ages: an exponential return to what it was before. Undefined where too few tell. */
export function lubricantLasts(points: readonly LubricantPoint[]): Lasting | undefined {
  const telling = points.filter((p) => p.beforeCents - p.afterCents > LEAST_GAIN && p.days > 0);
  if (telling.length < LEAST_POINTS) return undefined;
  const misfits = HALF_LIVES.map((half) =>
    telling.reduce((sum, p) => {
      const gone = 1 - 2 ** (-p.days / half);
      const sd = Math.hypot(p.sdCents, DAY_TO_DAY * p.beforeCents);
      return sum + ((p.cents - p.afterCents - gone * (p.beforeCents - p.afterCents)) / sd) ** 2;
    }, 0),
  );
  const least = Math.min(...misfits);
  const good = HALF_LIVES.filter((_, k) => misfits[k]! <= least + AS_GOOD);
  const [low, high] = [good[0]!, good[good.length - 1]!];
  // Open to one side, it is not known.
  if (high >= HALF_LIVES[HALF_LIVES.length - 1]! || low <= HALF_LIVES[0]!) return undefined;
  return { days: HALF_LIVES[misfits.indexOf(least)]!, low, high };
}
