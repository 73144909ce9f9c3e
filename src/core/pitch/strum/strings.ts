import { mean, sampleStandardDeviation } from 'simple-statistics';
import { cents as centsBetween, ratioOfCents } from '../../music';
import type { Reading } from '../reading/types';

/** One partial of a string as its own earlier readings have it: Hz over the target's Hz where the string stands at 0 cents. */
export interface KnownPartial {
  n: number;
  ratio: number;
  /** What two readings of it differ by, cents. */
  sigmaCents: number;
}

/** A string of an instrument that was strummed, and what is known of it. */
export interface StrummedString {
  id: string;
  targetHz: number;
  /** Where it should be by now, cents from its target, with its doubt. */
  expectedCents: number;
  expectedSigmaCents: number;
  /** From its own readings in this tuning; empty where there are none. */
  partials: readonly KnownPartial[];
}

/** What two plucks of one partial differ by at least, cents; where one pluck alone was read (house estimates, by strings on bodies). */
const FLOOR_CENTS = 0.12;
const ONE_PLUCK_CENTS = 0.35;

/**
 * A string's partials, from single plucks of it.
 * @param plucks each reading with where the string stood, cents from its target
 */
export function knownPartials(
  targetHz: number,
  plucks: readonly { reading: Pick<Reading, 'partials'>; cents: number }[],
): KnownPartial[] {
  /** By partial, how far it lies from the target of its string at rest in each pluck, cents. */
  const each = new Map<number, number[]>();
  for (const { reading, cents } of plucks)
    for (const { n, frequencyHz } of reading.partials)
      each.set(n, [...(each.get(n) ?? []), centsBetween(frequencyHz, targetHz) - cents]);
  return [...each]
    .map(([n, all]): KnownPartial => {
      const sigmaCents = all.length > 1 ? Math.hypot(FLOOR_CENTS, sampleStandardDeviation(all)) : ONE_PLUCK_CENTS;
      return { n, ratio: ratioOfCents(mean(all)), sigmaCents };
    })
    .sort((a, b) => a.n - b.n);
}
