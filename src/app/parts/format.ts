import { clamp } from '../../core/base';

export { plusMinus, signedCents as signed } from '../../core/music';
export { clockTime, dueTime, dueWords, sinceTime, span } from '../../core/base';

/** A figure as people write it, with a comma and a true minus too; NaN for what is none. */
export const figureIn = (text: string): number =>
  text.trim() === '' ? NaN : Number(text.replace(',', '.').replace('−', '-'));

/** Cents on a symmetric logarithmic scale: 0 at 0, 1 at full; 1 cent and 100 cents can both be seen. */
export function symlog(cents: number, full = 60): number {
  const c = clamp(cents, -full, full);
  return (Math.sign(c) * Math.log1p(Math.abs(c) / 2)) / Math.log1p(full / 2);
}
