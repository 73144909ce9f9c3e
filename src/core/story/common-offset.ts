import { mean, sampleStandardDeviation } from 'simple-statistics';
import { ratioOfCents, signedCents } from '../music';
import { traitsOf } from '../strings';
import type { InstrumentLife, StringStatus } from '../records';

/** Strings that stand together stand within this of one another, cents; and so far off that no room does it (house estimates). */
const TOGETHER_CENTS = 1.5;
const FAR_CENTS = 4;
const SEMITONE = 100;
/** Readings of one look at the instrument lie no further apart, ms. */
const ONE_LOOK_MS = 20 * 60000;
const FEWEST = 3;
/** What is left in common counts beyond so many of its standard errors. */
const BEYOND = 2;

/**
 * All strings off by one amount beyond what they were expected to fall, and why that may be: another reference, or a capo. A
 * room moves strings of different make by different amounts, and steel flat when it is warmer; what moves all alike is no room.
 * @param statuses what is said of its strings; what their records led to expect is taken off first
 * @returns the amount in cents and a sentence; undefined where they do not stand together
 */
export function commonOffset(
  { strings, record }: InstrumentLife,
  statuses: readonly Pick<StringStatus, 'stringId' | 'unexpected'>[],
  a4Hz: number,
): { cents: number; words: string } | undefined {
  const newest = Math.max(...strings.flatMap((s) => s.readings.at(-1)?.atMs ?? []));
  const left = strings.flatMap(({ plan, readings }) => {
    const last = readings.at(-1);
    if (!last || newest - last.atMs >= ONE_LOOK_MS) return [];
    const { unexpected } = statuses.find((s) => s.stringId === plan.stringId) ?? {};
    return unexpected ? [unexpected] : [];
  });
  if (left.length < Math.max(FEWEST, strings.length - 1)) return undefined;
  const cents = mean(left.map((l) => l.cents));
  // What strings of one set were misjudged by they were all misjudged by: it does not grow less with their number.
  const doubt = mean(left.map((l) => l.sigmaCents));
  const apart = sampleStandardDeviation(left.map((l) => l.cents));
  if (apart > TOGETHER_CENTS || Math.abs(cents) < Math.max(FAR_CENTS, BEYOND * doubt)) return undefined;
  const frets = Math.round(cents / SEMITONE);
  const { frets: fretted } = traitsOf(record);
  const isSemitones = frets !== 0 && Math.abs(cents - frets * SEMITONE) < 12;
  const why =
    fretted && isSemitones
      ? frets > 0
        ? `is a capo on fret ${frets}?`
        : `is it tuned ${frets === -1 ? 'a half step' : `${-frets} half steps`} down?`
      : `is the reference ${(a4Hz * ratioOfCents(cents)).toFixed(1)} Hz${fretted ? '' : ', a keyboard perhaps'}?`;
  return { cents, words: `${record.name}: everything stands ${signedCents(cents)}: ${why}` };
}
