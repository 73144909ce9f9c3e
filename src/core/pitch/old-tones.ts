import type { Peaks } from './peaks';

/** A tone that was sounding before: it only dies away. */
export interface OldTone {
  frequencyHz: number;
  amplitude: number;
}

/** An old tone may beat up to this many times its amplitude. */
const SWELLS = 1.4;
/** Two tones nearer than this are one, Hz: an old tone is known from a short look (house estimate). */
const APART_HZ = 6;

/** The peaks without those of tones that were there before and have not grown. */
export function withoutOld(peaks: Peaks, old: readonly OldTone[], apartHz = APART_HZ): Peaks {
  if (old.length === 0) return peaks;
  const left: number[] = [];
  peaks.frequencyHz.forEach((hz, i) => {
    const same = old.some((o) => Math.abs(o.frequencyHz - hz) < apartHz && peaks.amplitude[i]! < SWELLS * o.amplitude);
    if (!same) left.push(i);
  });
  const pick = (list: number[]) => left.map((i) => list[i]!);
  return { frequencyHz: pick(peaks.frequencyHz), amplitude: pick(peaks.amplitude), floor: pick(peaks.floor) };
}
