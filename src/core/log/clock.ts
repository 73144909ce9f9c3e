const DAY = 86400000;
const pad = (n: number) => String(n).padStart(2, '0');

/** Local time of day, '16:42'. */
export function clockTime(atMs: number, zoneMin: number): string {
  const d = new Date(atMs + zoneMin * 60000);
  if (Number.isNaN(d.getTime())) return '–';
  return `${pad(d.getUTCHours())}:${pad(d.getUTCMinutes())}`;
}

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

/** When something is due, after a verb: 'check at 16:42', 'check tomorrow 09:10', 'check now'. */
export function dueWords(atMs: number, nowMs: number, zoneMin: number): string {
  const due = dueTime(atMs, nowMs, zoneMin);
  return /^(now|in |tomorrow)/.test(due) ? due : `at ${due}`;
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
