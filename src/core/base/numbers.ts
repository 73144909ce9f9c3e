/** Density of a normal distribution of mean 0 at x. @param variance above 0, in the square of x's unit */
export const normalDensity = (x: number, variance: number): number =>
  Math.exp((-0.5 * x * x) / variance) / Math.sqrt(2 * Math.PI * variance);

/** The nearest to x that lies within bounds. @param low not above high */
export const clamp = (x: number, low: number, high: number): number => Math.max(low, Math.min(high, x));

/** Quantiles of the standard normal distribution: so many standard deviations above the middle (Abramowitz and Stegun, table 26.5). */
export const NORMAL_Q90 = 1.2816;
export const NORMAL_Q95 = 1.6449;
