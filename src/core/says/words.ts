import { inCents, offsetWords, signedCents } from '../music';
import { clockTime, MINUTE, sinceTime, type Zone } from '../base';
import type { Stands } from '../settling';
import type { ForecastBand, LifeFit, StringStatus } from '../status';
import { halfWidth, type Statement } from './statement';

type Interval = [number, number];

/** From here on a half width is written in whole cents. */
export const WHOLE_CENTS = 3;

/**
 * '−8.5 ±1.0 cents', to whole cents where the doubt is wide, never ±0.
 * @param value cents; nine of ten lie within the interval
 * @param as 'plain' without a plus, where it is a size
 */
export const aboutCents = (value: number, interval: Interval, as: 'signed' | 'plain' = 'signed'): string => {
  const half = halfWidth(interval);
  const digits = half < WHOLE_CENTS ? 1 : 0;
  const [, unit] = inCents(value, digits).split(' ');
  const figure = signedCents(value, digits);
  return `${as === 'plain' ? figure.replace('+', '') : figure} ±${half < WHOLE_CENTS ? Math.max(0.1, half).toFixed(1) : half.toFixed(0)} ${unit}`;
};

export const STATE_WORDS = {
  settling: 'is settling',
  holding: 'holds',
  slipped: 'slipped',
  rose: 'rose',
  unread: 'is not read',
} as const;

/** What tells how a string answers to warmth. */
export const WARMTH_FROM: Record<LifeFit['temperatureFrom'], string> = {
  thermometer: 'from the thermometer',
  'other strings': 'from the other strings',
  assumed: 'assumed',
};

/** A reading younger than this is shown as it is, ms; an older one is shown as that age. */
const YOUNG_MS = 15 * MINUTE;
/** How old the figure of a string is, and where it is expected to have gone since; '' while it is young. */
export function ageLine(
  { cents, lastReadMs, byNow }: StringStatus,
  stand: Stands | undefined,
  nowMs: number,
  zone: Zone,
): string {
  if (cents === null || lastReadMs === null || nowMs - lastReadMs < YOUNG_MS) return '';
  const read = `${signedCents(cents)} at ${sinceTime(lastReadMs, nowMs, zone)}`;
  if (!byNow || !stand) return read;
  return `${read}, now about ${aboutCents(stand.q50, [stand.q05, stand.q95])} if untouched`;
}

/** The one side of an interval is so many times as wide as the other where two things may be: it moved, or the figure is wrong. */
const LOPSIDED = 3;
const LOPSIDED_CENTS = 3;
export function nowWords(note: string, value: number, interval: Interval): string {
  const [low, high] = interval;
  const [below, above] = [value - low, high - value];
  const wide = Math.max(below, above);
  if (wide > LOPSIDED_CENTS && wide > LOPSIDED * Math.min(below, above))
    return `${note}: about ${inWhole(value)} now, or up to ${inWhole(below > above ? low : high)} if that was read wrong. Read it once more.`;
  return `${note}: about ${aboutCents(value, interval)} now, if nobody has touched it.`;
}
const inWhole = (cents: number): string => offsetWords(cents, 0);
export const atWords = (note: string, value: number, interval: Interval, atMs: number, zone: Zone) =>
  `${note}: about ${aboutCents(value, interval)} at ${clockTime(atMs, zone)}, if untouched.`;
/** Where a string will stand that nobody touches, at its moment. */
export const bandWords = ({ atMs, cents, low, high }: ForecastBand, zone: Zone): string =>
  `If untouched, at ${clockTime(atMs, zone)}: ${aboutCents(cents, [low, high])}`;
export const fallenWords = (note: string, cents: number, since: string) =>
  `${note}: ${cents < -0.5 ? 'risen' : 'fallen'} ${inCents(cents)} in all since ${since}.`;
/** What a string that moved at once may have done. @param cents how far, sharp positive */
export const leapWords = (note: string, cents: number, at: string) =>
  cents > 0
    ? `${note} rose suddenly by ${inCents(cents)} at ${at}. Was it turned, or did the nut let go?`
    : `${note} dropped suddenly by ${inCents(cents)} at ${at}. Look at its winding and knot.`;
export const roomWords = (note: string, cents: number, degrees: number, since: string) =>
  `${note}: the room is ${Math.abs(degrees).toFixed(0)} °C ${degrees > 0 ? 'warmer' : 'colder'} than at ${since}. That moved it about ${signedCents(cents)} cents.`;

/** A statement's figure in a narrow column, without its doubt, which the sentence tells: '−3', '4.2'; its words where it has no figure. */
export function shortFigure({ kind, value, brief }: Statement): string {
  if (typeof value !== 'number') return brief ?? '';
  const figure = signedCents(value, kind === 'per-hour' ? 1 : 0);
  return kind === 'offset-at' ? figure : figure.replace('+', '');
}

/** What the columns of a table of strings mean. */
export const columnsWords = (toleranceCents: number, holdMin: number): string =>
  `Cents. Holds: the chance to stay within ±${toleranceCents} cents for ${holdMin} min if untouched. Ready: from then on a string that was kept in tune holds, once it is retuned.`;
/** What is asked of a string that holds. */
export const holdsAsked = (toleranceCents: number, holdMin: number): string =>
  `holds ±${toleranceCents} cents for ${holdMin} min`;
