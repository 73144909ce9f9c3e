import { tzOffset } from '@date-fns/tz';

export const MINUTE = 60000;
export const HOUR = 60 * MINUTE;
export const DAY = 24 * HOUR;

/** By which wall clock a time is told: a time zone's name ('Europe/Berlin'), with its summer time, or a fixed offset from UTC, min (east positive). */
export type Zone = string | number;

/** How far the wall clock of a zone is ahead of UTC at an instant, min (IANA time zone database, by the platform). */
export const offsetMin = (zone: Zone, atMs: number): number =>
  typeof zone === 'number' ? zone : tzOffset(zone, new Date(atMs));

/** Is it the name of a time zone that the platform knows? */
export const isZone = (name: string): boolean => Number.isFinite(tzOffset(name, new Date(0)));

/** The zone by which the times of a record are told: that of here where its clock agreed with that, else the offset that it had. */
export const zoneOf = ({ atMs, zoneMin }: { atMs: number; zoneMin: number }, here: Zone | undefined): Zone =>
  here !== undefined && offsetMin(here, atMs) === zoneMin ? here : zoneMin;

/** The wall clock at an instant as if it were UTC, ms. */
const wall = (atMs: number, zone: Zone): number => atMs + offsetMin(zone, atMs) * MINUTE;

/** The instant of a wall clock, ms. One that is passed over when clocks go forward is as much later; of one that comes twice it is the first. */
function instantOfWall(wallMs: number, zone: Zone): number {
  const [before, after] = [wallMs - DAY, wallMs + DAY].map((ms) => offsetMin(zone, ms));
  const first = wallMs - before! * MINUTE;
  if (wall(first, zone) === wallMs) return first;
  const second = wallMs - after! * MINUTE;
  return wall(second, zone) === wallMs ? second : first;
}

/** Counts days of the wall clock. */
const dayOf = (atMs: number, zone: Zone): number => Math.floor(wall(atMs, zone) / DAY);

const pad = (n: number) => String(n).padStart(2, '0');

/** Date and time of the wall clock as a field for them writes it, '2026-05-31T19:30'; '' for what is no instant. */
export function localText(atMs: number, zone: Zone): string {
  const d = new Date(Number.isFinite(atMs) ? wall(atMs, zone) : NaN);
  return Number.isNaN(d.getTime()) ? '' : d.toISOString().slice(0, 16);
}

const LOCAL = /^\d{4}-\d\d-\d\dT\d\d:\d\d$/;

/** The instant that a field for date and time names, ms; NaN for what is none, the 30th of February too. */
export function instantOf(text: string, zone: Zone): number {
  const wallMs = LOCAL.test(text) ? Date.parse(`${text}:00Z`) : NaN;
  // Parsers make the 2nd of March of it.
  if (Number.isNaN(wallMs) || new Date(wallMs).toISOString().slice(0, 16) !== text) return NaN;
  return instantOfWall(wallMs, zone);
}

/** An instant as ISO 8601 writes it, ms; NaN for what is none, the 30th of February too. */
export function instantOfIso(text: string): number {
  const [day] = /^\d{4}-\d\d-\d\d/.exec(text) ?? [];
  // Parsers make the 2nd of March of it.
  if (day && Number.isNaN(instantOf(`${day}T12:00`, 0))) return NaN;
  return Date.parse(text);
}

/** The day of the wall clock, '2026-05-31'. */
export const localDay = (atMs: number, zone: Zone): string => localText(atMs, zone).slice(0, 10);

/** Local date and time with its offset, ISO 8601. */
export function localIso(atMs: number, zone: Zone): string {
  const offset = Number.isFinite(atMs) ? offsetMin(zone, atMs) : 0;
  const d = new Date(atMs + offset * MINUTE);
  if (Number.isNaN(d.getTime())) return 'no date';
  const z = Math.abs(offset);
  return `${d.toISOString().slice(0, 19)}${offset < 0 ? '-' : '+'}${pad(Math.floor(z / 60))}:${pad(z % 60)}`;
}

/** Hours of the wall clock since its midnight. */
export const hourOfDay = (atMs: number, zone: Zone): number => (wall(atMs, zone) % DAY) / HOUR;

/** The next instant, after or at now, at which the wall clock shows a whole hour. */
export const nextWholeHour = (nowMs: number, zone: Zone): number =>
  instantOfWall(Math.ceil(wall(nowMs, zone) / HOUR) * HOUR, zone);

/** The next instant after now at which the wall clock shows so many minutes after midnight. */
function nextAtMinute(minuteOfDay: number, nowMs: number, zone: Zone): number {
  const today = dayOf(nowMs, zone) * DAY + minuteOfDay * MINUTE;
  const at = instantOfWall(today, zone);
  return at > nowMs ? at : instantOfWall(today + DAY, zone);
}

/**
 * The next time the clock shows what was typed, today or tomorrow: '19:30', '19.30', '1930', '7:30 pm', '7pm'; undefined for what
 * is no time of day.
 */
export function nextAt(text: string, nowMs: number, zone: Zone): number | undefined {
  const m = /^\s*(\d{1,2})(?:[:.h]?(\d{2}))?\s*([ap])?\.?\s*(?:m\.?)?\s*$/i.exec(text);
  if (!m || (m[2] === undefined && m[3] === undefined)) return undefined;
  const half = m[3]?.toLowerCase();
  const told = Number(m[1]);
  if (half && (told < 1 || told > 12)) return undefined;
  const hour = half ? (told % 12) + (half === 'p' ? 12 : 0) : told;
  const minute = Number(m[2] ?? 0);
  if (hour > 23 || minute > 59) return undefined;
  return nextAtMinute(hour * 60 + minute, nowMs, zone);
}

/** Local time of day, '16:42'. */
export const clockTime = (atMs: number, zone: Zone): string => localText(atMs, zone).slice(11) || '–';

/** What is a minute past is late. */
const LATE_MS = MINUTE;

/** When something is due, as one says it: 'now', 'now, due since 12:25', '16:42', 'tomorrow 9:10', 'in 5 days'. */
export function dueTime(atMs: number, nowMs: number, zone: Zone): string {
  if (atMs < nowMs - LATE_MS) return `now, due since ${sinceTime(atMs, nowMs, zone)}`;
  if (atMs <= nowMs + 30000) return 'now';
  const days = dayOf(atMs, zone) - dayOf(nowMs, zone);
  if (days === 0) return clockTime(atMs, zone);
  if (days === 1) return `tomorrow ${clockTime(atMs, zone)}`;
  return `in ${days} days`;
}

/** When something is due, after a verb: 'check at 16:42', 'check tomorrow 09:10', 'check now'. */
export function dueWords(atMs: number, nowMs: number, zone: Zone): string {
  const due = dueTime(atMs, nowMs, zone);
  return /^(now|in |tomorrow)/.test(due) ? due : `at ${due}`;
}

/** An instant in the past: '12:20', 'yesterday 12:20', '5 days ago'. */
export function sinceTime(atMs: number, nowMs: number, zone: Zone): string {
  const days = dayOf(nowMs, zone) - dayOf(atMs, zone);
  if (days === 0) return clockTime(atMs, zone);
  return days === 1 ? `yesterday ${clockTime(atMs, zone)}` : `${days} days ago`;
}

/** A span in words of the bench: '2 h 06', '3 days', '5 weeks'. */
export function span(ms: number): string {
  if (!Number.isFinite(ms)) return '–';
  const minutes = Math.max(0, Math.round(ms / MINUTE));
  if (minutes < 60) return `${minutes} min`;
  if (minutes < 48 * 60) return `${Math.floor(minutes / 60)} h ${pad(minutes % 60)}`;
  const days = Math.round(minutes / 1440);
  return days < 21 ? `${days} days` : `${Math.round(days / 7)} weeks`;
}
