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
