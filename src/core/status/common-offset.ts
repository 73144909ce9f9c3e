import { mean, median, sampleStandardDeviation } from 'simple-statistics';
import { ratioOfCents } from '../music';
import { traitsOf } from '../strings';
import type { InstrumentLife } from '../log';
import type { StringStatus } from './state';
import { MINUTE } from '../base';

/** Strings that stand together stand within this of one another, cents; and so far off that no room does it (house, held against the truth by bench/audit). */
const TOGETHER_CENTS = 2.5;
const FAR_CENTS = 3.5;
/** A string so far from the middle of all has moved by itself, cents (house). */
const ALONE_CENTS = 6;
const SEMITONE = 100;
/** Readings of one look at the instrument lie no further apart, ms. */
const ONE_LOOK_MS = 20 * MINUTE;
const FEWEST = 3;
/** What is left in common counts beyond so many of its standard errors; no string rises by itself: upward, fewer will do. */
const BEYOND = { flat: 1.8, sharp: 1 };
/** Strings that somebody tuned as he pleased stand sharp by this each, cents, and beyond so many standard errors (house). */
const EACH_CENTS = 2.5;
const EACH_BEYOND = 1;

/** What all strings of an instrument have in common. */
export interface CommonOffset {
  cents: number;
  sigmaCents: number;
  /** The A4 that they would agree with, Hz; null where it looks like a capo or another tuning. */
  asHz: number | null;
  words: string;
}

/**
 * All strings off by one amount beyond what they were expected to fall, and why that may be: another reference, or a capo. A
 * room moves strings of different make by different amounts, and steel flat when it is warmer; what moves all alike is no room.
 * @param statuses what is said of its strings; what their records led to expect is taken off first
 * @returns undefined where they do not stand together
 */
export function commonOffset(
  { strings, record }: InstrumentLife,
  statuses: readonly Pick<StringStatus, 'stringId' | 'unexpected'>[],
  a4Hz: number,
): CommonOffset | undefined {
  const newest = Math.max(...strings.flatMap((s) => s.readings.at(-1)?.atMs ?? []));
  const all = strings.flatMap(({ plan, readings }) => {
    const last = readings.at(-1);
    if (!last || newest - last.atMs >= ONE_LOOK_MS) return [];
    const { unexpected } = statuses.find((s) => s.stringId === plan.stringId) ?? {};
    return unexpected ? [unexpected] : [];
  });
  if (all.length < Math.max(FEWEST, strings.length - 1)) return undefined;
  const left = withoutOne(all, Math.max(FEWEST, strings.length - 1));
  const cents = mean(left.map((l) => l.cents));
  // What strings of one set were misjudged by they were all misjudged by: it does not grow less with their number.
  const doubt = mean(left.map((l) => l.sigmaCents));
  const apart = sampleStandardDeviation(left.map((l) => l.cents));
  const way = cents > 0 ? 'sharp' : 'flat';
  if (Math.abs(cents) < Math.max(FAR_CENTS, BEYOND[way] * doubt)) return undefined;
  if (apart > TOGETHER_CENTS) return tunedByHand(record.name, left, cents, doubt, apart);
  const frets = Math.round(cents / SEMITONE);
  const { frets: fretted } = traitsOf(record);
  const isSemitones = frets !== 0 && Math.abs(cents - frets * SEMITONE) < 12;
  const told = `All strings of ${record.name} are about ${Math.abs(cents).toFixed(isSemitones ? 0 : 1)} cents ${cents > 0 ? 'sharper' : 'flatter'} than expected`;
  const sigmaCents = Math.hypot(doubt, apart / Math.sqrt(left.length));
  if (fretted && isSemitones)
    return {
      cents,
      sigmaCents,
      asHz: null,
      words: `${told}. ${frets > 0 ? `Is a capo on fret ${frets}?` : `Is it tuned ${frets === -1 ? 'a half step' : `${-frets} half steps`} down?`}`,
    };
  const asHz = a4Hz * ratioOfCents(cents);
  return { cents, sigmaCents, asHz, words: `${told}, as if tuned to A4 = ${asHz.toFixed(1)} Hz.` };
}

/** One string may have moved by itself: without the one that is furthest from the middle, where enough are left and the others stand together. */
function withoutOne<S extends { cents: number }>(all: readonly S[], fewest: number): readonly S[] {
  const middle = median(all.map((l) => l.cents));
  const apart = (l: S) => Math.abs(l.cents - middle);
  const furthest = all.reduce((far, l) => (apart(l) > apart(far) ? l : far));
  const others = all.filter((l) => l !== furthest);
  const isAlone = others.length >= fewest && apart(furthest) > ALONE_CENTS;
  return isAlone ? others : all;
}

/** Every string but one at most stands sharp, each by its own amount: somebody tuned them. What falls so may be the room, or new strings. */
function tunedByHand(
  name: string,
  left: readonly { cents: number; sigmaCents: number }[],
  cents: number,
  doubt: number,
  apart: number,
): CommonOffset | undefined {
  const moved = left.filter((l) => l.cents > Math.max(EACH_CENTS, EACH_BEYOND * l.sigmaCents));
  if (moved.length < Math.max(FEWEST, left.length - 1)) return undefined;
  const sizes = moved.map((l) => l.cents);
  const [least, most] = [Math.min(...sizes), Math.max(...sizes)].map((c) => c.toFixed(0));
  return {
    cents,
    sigmaCents: Math.hypot(doubt, apart / Math.sqrt(left.length)),
    asHz: null,
    words: `The strings of ${name} are ${least} to ${most} cents sharper than expected. Did somebody tune them, or is it much colder?`,
  };
}
