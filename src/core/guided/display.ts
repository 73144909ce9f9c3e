import { median } from 'simple-statistics';
import { signedCents } from '../music';
import type { SectionHeard, TrackPoint } from '../pitch';
import { calmFigure } from './sentence';
import { figureOf, type Figure } from './approach';

/** What the player sees of the string in hand: the trace, its robust figure, the figure that is shown. */
export interface Display {
  points: readonly TrackPoint[];
  /** When it began to be looked at, s; undefined before anything came. Whether a string was heard since. */
  sinceS: number | undefined;
  heard: boolean;
  /** When the note in the air began, s. */
  onsetS: number;
  /** What the trace shows more than the readings say, cents. */
  bias: number;
  /** Where it stands now; undefined when nothing is heard well enough. */
  figure: Figure | undefined;
  /** The calm figure: it changes when the new one differs enough. */
  shown: Figure | undefined;
}

export const DARK: Display = {
  points: [],
  sinceS: undefined,
  heard: false,
  onsetS: -Infinity,
  bias: 0,
  figure: undefined,
  shown: undefined,
};

/** The trail that is looked back on, s. */
const TRAIL_S = 1.5;
/** What was heard this long ago still sounds, s. */
const SOUNDS_S = 0.4;
/** A pluck's first moments are rough in the trace, s. */
const ROUGH_S = 0.2;
/** The trace of a string that stands still differs between its halves by less than this; from its readings by less than that, cents (house estimates). */
const STOOD_CENTS = 1;
const MOST_BIAS = 4;
/** A room above this may hide a string, dB of full scale (house estimate). */
const LOUD_ROOM_DB = -50;

/** New points of the trace. */
export function drawn(d: Display, news: readonly TrackPoint[]): Display {
  const all = [...d.points, ...news];
  const end = all[all.length - 1]?.tS ?? 0;
  const points = all.filter((p) => end - p.tS < TRAIL_S);
  const seen = figureOf(points, d.onsetS);
  return {
    ...d,
    points,
    sinceS: d.sinceS ?? news[0]?.tS,
    heard: d.heard || news.some((p) => p.cents !== null),
    figure: seen && { ...seen, cents: seen.cents - d.bias },
  };
}

/** The figure as it is shown, if there is one. */
export const calmed = (d: Display, toleranceCents: number): Display =>
  d.figure ? { ...d, shown: calmFigure(d.shown, d.figure, toleranceCents) } : d;

/** The newest point's time, s; long ago where there is none. */
export const endOf = ({ points }: Display): number => points[points.length - 1]?.tS ?? -Infinity;

/** Is a string in the air now? */
export function isSounding(d: Display): boolean {
  const end = endOf(d);
  return d.points.some((p) => p.cents !== null && end - p.tS < SOUNDS_S);
}

/** The figure while it is of this moment. */
export const figureAt = ({ figure }: Display, nowS: number): Figure | undefined =>
  figure && nowS - figure.tS < SOUNDS_S ? figure : undefined;

/** Is the room so loud that a string may be hidden by it? */
export const isLoud = ({ points }: Display): boolean =>
  (points[points.length - 1]?.floorDb ?? -Infinity) > LOUD_ROOM_DB;

/**
 * Learns how the trace differs from a reading. Only a string that stood still while it was read tells that.
 * @param readCents what was read
 * @param movedS when the string last moved, s
 */
export function compared(d: Display, s: SectionHeard, readCents: number, movedS: number): Display {
  const inside = d.points.flatMap((p) =>
    p.cents !== null && p.tS > s.fromS + ROUGH_S && p.tS < s.toS ? [p.cents] : [],
  );
  const half = inside.length >> 1;
  const stood =
    inside.length > 8 &&
    movedS <= s.fromS + ROUGH_S &&
    Math.abs(median(inside.slice(0, half)) - median(inside.slice(half))) < STOOD_CENTS;
  if (!stood) return d;
  const shift = median(inside) - d.bias - readCents;
  const bias = d.bias + 0.5 * shift;
  return Math.abs(bias) < MOST_BIAS ? { ...d, bias } : d;
}

/** Listening for so long, nothing was heard yet, s; a room so loud hides most strings, dB of full scale (house estimates). */
const NOTHING_S = 6;
const TOO_LOUD_DB = -32;

/** What is said where nothing was heard for long: what is heard instead. */
export function quietWords(d: Display, nowS: number, note: string): string | undefined {
  const newest = d.points[d.points.length - 1];
  if (d.heard || !newest || d.sinceS === undefined || nowS - d.sinceS < NOTHING_S) return undefined;
  const db = (x: number) => `${signedCents(x, 0)}\u00a0dB`;
  if (newest.floorDb > TOO_LOUD_DB) return `Too loud to hear ${note}: ${db(newest.floorDb)}`;
  return `Nothing heard yet: pluck ${note} (input ${db(newest.levelDb)})`;
}
