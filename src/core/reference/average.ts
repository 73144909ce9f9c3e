import { linearRegression, mean, sampleStandardDeviation } from 'simple-statistics';
import { cents, ratioOfCents } from '../music';
import { CLOCK_CENTS, type Limit } from '../two-strings';

/** One reading of a tone, Hz, with its standard error, cents, and what keeps it from being surer. */
export interface ToneReading {
  frequencyHz: number;
  sigmaCents: number;
  limit: Limit;
}
export interface ToneAverage {
  frequencyHz: number;
  sigmaCents: number;
  /** Standard deviation of the repeats, cents. */
  spreadCents: number;
  /** From the first to the last, by a line through them, cents. */
  driftCents: number;
  /** Do the repeats agree; or, after five, why they do not: they drift, they spread, each alone is unsure. Undefined while more may tell. */
  verdict: 'agree' | 'drifts' | 'spreads' | 'room' | 'tone' | undefined;
}

/** As sure as this is sure enough, and repeats within this spread agree, cents; a change beyond this is a drift. */
const ENOUGH_CENTS = 0.1;
const AGREE_CENTS = 0.5;
export const DRIFT_CENTS = 1;
/** What goes one way goes further than so many spreads of the repeats (on a straight line, 2.5 of them). */
const DRIFT_SPREADS = 2;
/** So many that agree are enough; after so many nothing more is to be had. */
const LEAST = 3;
const MOST = 5;

/**
 * Average of repeated readings of one tone: the error from their spread, never less than what each says of itself or than this
 * device's clock, which is wrong alike in all. Undefined before two.
 */
export function averageTone(readings: readonly ToneReading[]): ToneAverage | undefined {
  const [first] = readings;
  if (!first || readings.length < 2) return undefined;
  const offs = readings.map((r) => cents(r.frequencyHz, first.frequencyHz));
  const n = offs.length;
  const spreadCents = sampleStandardDeviation(offs);
  const own = Math.sqrt(mean(readings.map((r) => r.sigmaCents ** 2)));
  const sigmaCents = Math.max(CLOCK_CENTS, Math.max(spreadCents, own) / Math.sqrt(n));
  const driftCents = linearRegression(offs.map((c, i) => [i, c])).m * (n - 1);
  const drifts = Math.abs(driftCents) > Math.max(DRIFT_CENTS, DRIFT_SPREADS * spreadCents);
  const sure = sigmaCents <= ENOUGH_CENTS || (Math.max(spreadCents, own) <= AGREE_CENTS && !drifts);
  const unsure = own > spreadCents ? (readings.at(-1)!.limit === 'room' ? 'room' : 'tone') : 'spreads';
  return {
    frequencyHz: first.frequencyHz * ratioOfCents(mean(offs)),
    sigmaCents,
    spreadCents,
    driftCents,
    verdict: n >= LEAST && sure ? 'agree' : n < MOST ? undefined : drifts ? 'drifts' : unsure,
  };
}
