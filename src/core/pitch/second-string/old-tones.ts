import type { Peaks } from '../signal/peaks';

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

/** A tone that is not seen any more is forgotten at this rate a look. */
const FORGOTTEN = 0.7;
/** A tone that has sunk to this share of the loudest, or to this amplitude, is gone. */
const GONE = 0.003;
const LEAST = 1e-5;

/** What is left of old tones: they die away, and what has died does not hide what is plucked anew. */
export function fading(old: readonly OldTone[], seen: readonly OldTone[]): OldTone[] {
  const top = Math.max(0, ...seen.map((t) => t.amplitude));
  return old.flatMap((o) => {
    const now = seen.reduce(
      (most, t) => (Math.abs(t.frequencyHz - o.frequencyHz) < APART_HZ ? Math.max(most, t.amplitude) : most),
      0,
    );
    const amplitude = Math.min(o.amplitude, now > 0 ? now : FORGOTTEN * o.amplitude);
    return amplitude > GONE * top && amplitude > LEAST ? [{ ...o, amplitude }] : [];
  });
}
