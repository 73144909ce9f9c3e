import { linearRegression, mean, sampleStandardDeviation } from 'simple-statistics';
import { cents, ratioOfCents } from '../music';

/** One reading of a tone, Hz, with its standard error, cents. */
export interface ToneReading {
  frequencyHz: number;
  sigmaCents: number;
}
export interface ToneAverage {
  frequencyHz: number;
  sigmaCents: number;
  /** Standard deviation of the repeats, cents. */
  spreadCents: number;
  /** From the first to the last, by a line through them, cents. */
  driftCents: number;
  /** Sure enough, or as sure as it will become. */
  done: boolean;
}

/** Sure enough, cents; and how many readings are taken at most and at least. */
const ENOUGH_CENTS = 0.1;
const LEAST = 3;
const MOST = 8;

/** Average of repeated readings of one tone: the error from their spread, never less than what each says of itself. Undefined before two. */
export function averageTone(readings: readonly ToneReading[]): ToneAverage | undefined {
  const [first] = readings;
  if (!first || readings.length < 2) return undefined;
  const offs = readings.map((r) => cents(r.frequencyHz, first.frequencyHz));
  const n = offs.length;
  const spreadCents = sampleStandardDeviation(offs);
  const own = Math.sqrt(mean(readings.map((r) => r.sigmaCents ** 2)));
  const sigmaCents = Math.max(spreadCents, own) / Math.sqrt(n);
  const slope = linearRegression(offs.map((c, i) => [i, c])).m;
  return {
    frequencyHz: first.frequencyHz * ratioOfCents(mean(offs)),
    sigmaCents,
    spreadCents,
    driftCents: slope * (n - 1),
    done: n >= MOST || (n >= LEAST && sigmaCents <= ENOUGH_CENTS),
  };
}
