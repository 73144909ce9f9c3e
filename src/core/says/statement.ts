import { NORMAL_Q95 } from '../base';
/** What a statement can be about. docs/formats.md says what each claims, of which moment and in which unit. */
export const STATEMENT_KINDS = [
  'state',
  'reading',
  'string-next',
  'offset-now',
  'offset-at',
  'fallen',
  'hold-chance',
  'ready-at',
  'ready-kept',
  'per-hour',
  'per-day',
  'warmth',
  'next-check',
  'rounds-gain',
  'rounds-did',
  'leap',
  'per-doubling',
  'no-forecast',
  'repeatability',
  'headroom',
  'tuner-way',
  'tuner-amount',
  'common-offset',
  'reference-suspect',
  'room-change',
  'octave-error',
  'saddle-move',
  'string-worn',
  'cause',
  'friction',
  'lubricant-life',
  'lead',
  'stop-at',
  'net-offset',
  'ear-accuracy',
  'holding',
  'age',
  'next-thing',
] as const;
export type StatementKind = (typeof STATEMENT_KINDS)[number];

export type Unit = 'cents' | 'mm' | 'Hz' | 'days' | 'share' | 'cents/turn' | 'cents/°C';

/** One claim of the log at a moment: the figure that can be held against a truth, and the sentence that a view shows. */
export interface Statement {
  kind: StatementKind;
  /** Ids; missing where it is about all. */
  instrument?: string;
  string?: string;
  /** A figure in its unit, or a code. */
  value?: number | string;
  /** Standard deviation of a figure. */
  sd?: number;
  /** Nine of ten lie between. */
  interval?: [number, number];
  unit?: Unit;
  /** The moment that it is about, where that is not now, ms. */
  atMs?: number;
  /** How likely it is to be so, 0 to 1. */
  chance?: number;
  /** How much warmer a room became that did it, °C. */
  degrees?: number;
  text: string;
  /** The same beside its name, where a row has no room for a sentence. */
  brief?: string;
}

/** A figure whose doubt is normal, with the interval of nine of ten. */
export const normal = (value: number, sd: number): Pick<Statement, 'value' | 'sd' | 'interval'> => ({
  value,
  sd,
  interval: [value - NORMAL_Q95 * sd, value + NORMAL_Q95 * sd],
});
/** Quantile of chi-square over its freedom, by a cube (Wilson and Hilferty 1931). */
const chiShare = (z: number, freedom: number): number =>
  (1 - 2 / (9 * freedom) + z * Math.sqrt(2 / (9 * freedom))) ** 3;

/** A spread that was taken from so many errors about a known middle. */
export const spreadOf = (value: number, count: number): Pick<Statement, 'value' | 'sd' | 'interval'> => ({
  value,
  sd: value / Math.sqrt(2 * count),
  interval: [value / Math.sqrt(chiShare(NORMAL_Q95, count)), value / Math.sqrt(chiShare(-NORMAL_Q95, count))],
});
/** Half of the interval of nine of ten, as ± is written. */
export const halfWidth = ([low, high]: [number, number]): number => (high - low) / 2;
