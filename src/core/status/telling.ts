import { MINUTE, once } from '../base';
import { ageFromMs, handMoments } from './hand-events';
import type { StringLife, ReadingRecord } from '../log';

/** So few readings of a string are all fitted, and so many of the last ones of more (house). */
const FEW = 150;
const NEWEST = 24;
/** Readings this close, against the string's age, say of its settling what one of them says (house): it goes by the logarithm of age. */
const SHARE_OF_AGE = 0.05;

/** The readings of a string that tell something of how it settles: what is reckoned with, and drawn, of many. */
export function tellingReadings(life: StringLife, moments: readonly number[] = []): ReadingRecord[] {
  const start = ageFromMs(life);
  return start === undefined ? life.readings : telling(life.readings, start, [...handMoments(life), ...moments]);
}

/**
 * Which readings of a string tell something of how it settles that the others do not: of a monitor that logs every minute for weeks few.
 * What hands did, moved or left is told by the readings round it; between them the last one of every stretch of its age.
 * @param readings of one string, oldest first
 * @param startMs when its age counts from
 * @param moments round which every reading counts, ms
 * @returns them in order; asked again the same list
 */
export function telling(readings: ReadingRecord[], startMs: number, moments: readonly number[]): ReadingRecord[] {
  if (readings.length <= FEW) return readings;
  const own = found(readings);
  const key = [startMs, ...moments].join();
  const known = own.get(key);
  if (known) return known;
  const places = new Set(alone(readings, startMs));
  for (const atMs of moments) for (const i of around(readings, placeOf(readings, atMs))) places.add(i);
  const told = [...places].sort((a, b) => a - b).map((i) => readings[i]!);
  own.set(key, told);
  return told;
}

const around = (readings: readonly ReadingRecord[], i: number): number[] =>
  [i - 1, i, i + 1].filter((k) => k >= 0 && k < readings.length);

/** The place of the first reading at a moment or after it. */
function placeOf(readings: readonly ReadingRecord[], atMs: number): number {
  let [low, high] = [0, readings.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (readings[middle]!.atMs < atMs) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** What was found of a list before, by what it was asked with. */
const found = once((): Map<string, ReadingRecord[]> => new Map());

/** What readings tell by themselves: what was done at them, the last of their stretch of age, the newest. */
function alone(readings: readonly ReadingRecord[], startMs: number): Iterable<number> {
  // Stretches of whole minutes, twice as long from time to time: those of all strings of one age are the same.
  const stretchOf = ({ atMs }: ReadingRecord): number => {
    const ageMin = Math.max(1, (atMs - startMs) / MINUTE);
    const width = 2 ** Math.floor(Math.log2(Math.max(1, SHARE_OF_AGE * ageMin)));
    return Math.floor(atMs / MINUTE / width) * width;
  };
  const places = new Set([0]);
  let stretch = stretchOf(readings[0]!);
  readings.forEach((r, i) => {
    const next = stretchOf(r);
    if (next !== stretch) places.add(i - 1);
    stretch = next;
    if (r.purpose === 'as-left' || r.slip || r.stretched) for (const k of around(readings, i)) places.add(k);
    if (i >= readings.length - NEWEST) places.add(i);
  });
  return places;
}
