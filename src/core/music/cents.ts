import { NORMAL_Q95 } from '../base';
/**
 * Interval from one frequency to another in cents: 1200 log2(f / ref) (ISO 80000-8). Positive is sharp.
 * @param frequencyHz Hz, above 0
 * @param referenceHz Hz, above 0
 * @example cents(441, 440) // 3.93
 */
export function cents(frequencyHz: number, referenceHz: number): number {
  return 1200 * Math.log2(frequencyHz / referenceHz);
}

/** Frequency ratio of an interval in cents: 2^(c/1200). */
export function ratioOfCents(c: number): number {
  return Math.pow(2, c / 1200);
}

/** A size in cents as it is written: '12 cents', '1 cent'. */
export function inCents(size: number, digits = 0): string {
  const text = Math.abs(size).toFixed(digits);
  return `${text} ${text === '1' ? 'cent' : 'cents'}`;
}

/** A doubt as it is written: '±0.5', half of what nine of ten lie within; never '±0.0'. @param sigma standard deviation */
export const plusMinus = (sigma: number, digits = 1): string =>
  `±${Math.max(10 ** -digits, NORMAL_Q95 * sigma).toFixed(digits)}`;

/** A sentence's beginning. */
export const capital = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1);

/** Cents as they are written, to a tenth or as said, with a true minus: '+7.9', '−0.4', '0.0'; '–' for what is no number. */
export function signedCents(c: number, digits = 1): string {
  if (!Number.isFinite(c)) return '–';
  const text = Math.abs(c).toFixed(digits);
  return Number(text) === 0 ? text : `${c < 0 ? '−' : '+'}${text}`;
}

/** An offset with its unit: '−7.0 cents', '+1 cent'. @param c cents */
export const offsetWords = (c: number, digits = 1): string =>
  `${signedCents(c, digits)} ${inCents(c, digits).split(' ')[1]}`;
