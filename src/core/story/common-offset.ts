import { mean, sampleStandardDeviation } from 'simple-statistics';
import { ratioOfCents, signedCents } from '../music';
import { traitsOf } from '../strings';
import type { InstrumentLife } from '../records';

/** Strings that stand together stand within this of one another, cents; and so far off that no room does it (house estimates). */
const TOGETHER_CENTS = 1.5;
const FAR_CENTS = 4;
const SEMITONE = 100;
/** Readings of one look at the instrument lie no further apart, ms. */
const ONE_LOOK_MS = 20 * 60000;
const FEWEST = 3;

/**
 * All strings off by one amount, and why that may be: another reference, or a capo. A room moves strings of different make by
 * different amounts, and steel flat when it is warmer; what moves all alike is no room. Undefined where they do not stand together.
 * @returns the amount in cents and a sentence
 */
export function commonOffset(
  { strings, record }: InstrumentLife,
  a4Hz: number,
): { cents: number; words: string } | undefined {
  const last = strings.flatMap((s) => s.readings.at(-1) ?? []);
  const newest = Math.max(...last.map((r) => r.atMs));
  const now = last.filter((r) => newest - r.atMs < ONE_LOOK_MS).map((r) => r.cents);
  if (now.length < Math.max(FEWEST, strings.length - 1)) return undefined;
  const cents = mean(now);
  if (sampleStandardDeviation(now) > TOGETHER_CENTS || Math.abs(cents) < FAR_CENTS) return undefined;
  const other = a4Hz * ratioOfCents(cents);
  const frets = Math.round(cents / SEMITONE);
  const fretted = traitsOf(record).frets;
  const why =
    fretted && frets !== 0 && Math.abs(cents - frets * SEMITONE) < 12
      ? frets > 0
        ? `is a capo on fret ${frets}?`
        : `is it tuned ${frets === -1 ? 'a half step' : `${-frets} half steps`} down?`
      : `is the reference ${other.toFixed(1)} Hz${fretted ? ', or a capo on' : ', a keyboard perhaps'}?`;
  return { cents, words: `${record.name}: everything stands ${signedCents(cents)}: ${why}` };
}
