export { plusMinus, signedCents as signed } from '../../core/music';
export { clockTime, dueTime, dueWords, sinceTime, span } from '../../core/log';

/** A figure as people write it, with a comma and a true minus too; NaN for what is none. */
export const figureIn = (text: string): number =>
  text.trim() === '' ? NaN : Number(text.replace(',', '.').replace('−', '-'));

/** An instant as a field for date and time writes it, and back; NaN for what is none. */
export function toLocalField(ms: number, zoneMin: number): string {
  const d = new Date(ms + zoneMin * 60000);
  return Number.isNaN(d.getTime()) ? '' : d.toISOString().slice(0, 16);
}
export const fromLocalField = (text: string, zoneMin: number): number =>
  // Parsers take much for a date that is none.
  /^\d{4}-\d\d-\d\dT\d\d:\d\d$/.test(text) ? Date.parse(`${text}:00Z`) - zoneMin * 60000 : NaN;

/** Cents on a symmetric logarithmic scale: 0 at 0, 1 at full; 1 cent and 100 cents can both be seen. */
export function symlog(cents: number, full = 60): number {
  const c = Math.max(-full, Math.min(full, cents));
  return (Math.sign(c) * Math.log1p(Math.abs(c) / 2)) / Math.log1p(full / 2);
}
