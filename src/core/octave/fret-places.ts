import { cents } from '../music';
import type { TouchRecord } from '../log';
import type { FretReading } from './frets';

/** Fretted readings against the equal-tempered place over the open string of their moment. */
export function fretsOf(
  touches: readonly TouchRecord[],
  openAt: (atMs: number) => number,
  leastSigma: number,
): FretReading[] {
  return touches
    .filter((t) => t.touch === 'fret')
    .map((t) => ({
      fret: t.fret!,
      errorCents: cents(t.frequencyHz, openAt(t.atMs)) - 100 * t.fret!,
      sigmaCents: Math.SQRT2 * Math.max(leastSigma, t.sigmaCents),
      scatterCents: t.scatterCents,
    }))
    .sort((a, b) => a.fret - b.fret);
}
