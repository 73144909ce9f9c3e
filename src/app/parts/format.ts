import { clockTime } from '../../core/records';

export { clockTime };

/** A figure with a sign and a true minus: +0.6, −6.3. */
export function signed(value: number, digits = 1): string {
  if (!Number.isFinite(value)) return '–';
  const text = Math.abs(value).toFixed(digits);
  if (Number(text) === 0) return text;
  return (value < 0 ? '−' : '+') + text;
}

/** A figure as people write it, with a comma and a true minus too; NaN for what is none. */
export const figureIn = (text: string): number =>
  text.trim() === '' ? NaN : Number(text.replace(',', '.').replace('−', '-'));

const DAY = 86400000;
const pad = (n: number) => String(n).padStart(2, '0');

/** An instant as a field for date and time writes it, and back; NaN for what is none. */
export function toLocalField(ms: number, zoneMin: number): string {
  const d = new Date(ms + zoneMin * 60000);
  return Number.isNaN(d.getTime()) ? '' : d.toISOString().slice(0, 16);
}
export const fromLocalField = (text: string, zoneMin: number): number =>
  // Parsers take much for a date that is none.
  /^\d{4}-\d\d-\d\dT\d\d:\d\d$/.test(text) ? Date.parse(`${text}:00Z`) - zoneMin * 60000 : NaN;

/** When something is due, as one says it: 'now', 'now, due since 12:25', '16:42', 'tomorrow 9:10', 'in 5 days'. */
export function dueTime(atMs: number, nowMs: number, zoneMin: number): string {
  if (atMs < nowMs - LATE_MS) return `now, due since ${sinceTime(atMs, nowMs, zoneMin)}`;
  if (atMs <= nowMs + 30000) return 'now';
  const day = (ms: number) => Math.floor((ms + zoneMin * 60000) / DAY);
  const days = day(atMs) - day(nowMs);
  if (days === 0) return clockTime(atMs, zoneMin);
  if (days === 1) return `tomorrow ${clockTime(atMs, zoneMin)}`;
  return `in ${days} days`;
}

/** What is a minute past is late. */
const LATE_MS = 60000;

/** An instant in the past: '12:20', 'yesterday 12:20', '5 days ago'. */
export function sinceTime(atMs: number, nowMs: number, zoneMin: number): string {
  const day = (ms: number) => Math.floor((ms + zoneMin * 60000) / DAY);
  const days = day(nowMs) - day(atMs);
  if (days === 0) return clockTime(atMs, zoneMin);
  return days === 1 ? `yesterday ${clockTime(atMs, zoneMin)}` : `${days} days ago`;
}

/** A span in words of the bench: '2 h 06', '3 days', '5 weeks'. */
export function span(ms: number): string {
  if (!Number.isFinite(ms)) return '–';
  const minutes = Math.max(0, Math.round(ms / 60000));
  if (minutes < 60) return `${minutes} min`;
  if (minutes < 48 * 60) return `${Math.floor(minutes / 60)} h ${pad(minutes % 60)}`;
  const days = Math.round(minutes / 1440);
  return days < 21 ? `${days} days` : `${Math.round(days / 7)} weeks`;
}

/** Cents on a symmetric logarithmic scale: 0 at 0, 1 at full; 1 cent and 100 cents can both be seen. */
export function symlog(cents: number, full = 60): number {
  const c = Math.max(-full, Math.min(full, cents));
  return (Math.sign(c) * Math.log1p(Math.abs(c) / 2)) / Math.log1p(full / 2);
}
