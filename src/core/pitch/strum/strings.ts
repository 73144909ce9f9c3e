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
  const each = new Map<number, { ratio: number; cents: number }[]>();
  for (const { reading, cents } of plucks)
    for (const { n, frequencyHz } of reading.partials) {
      const ratio = frequencyHz / (targetHz * 2 ** (cents / 1200));
      each.set(n, [...(each.get(n) ?? []), { ratio, cents: 1200 * Math.log2(ratio) }]);
    }
  return [...each]
    .map(([n, all]): KnownPartial => {
      const mean = all.reduce((s, a) => s + a.cents, 0) / all.length;
      const spread = Math.sqrt(all.reduce((s, a) => s + (a.cents - mean) ** 2, 0) / Math.max(1, all.length - 1));
      const doubt = all.length > 1 ? Math.hypot(FLOOR_CENTS, spread) : ONE_PLUCK_CENTS;
      return { n, ratio: 2 ** (mean / 1200), sigmaCents: doubt };
    })
    .sort((a, b) => a.n - b.n);
}
