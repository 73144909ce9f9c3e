import { mean, sampleStandardDeviation } from 'simple-statistics';
import { weightedFit } from './least-squares';

/** A fretted note against the open string: how far from its equal-tempered place, sharp positive, cents. */
export interface FretReading {
  fret: number;
  errorCents: number;
  sigmaCents: number;
  /** Spread of the plucks that it is the median of, cents. */
  scatterCents?: number;
}

export type FretsVerdict = 'in-tune' | 'saddle' | 'nut' | 'pressing' | 'frets' | 'unclear';

export interface FretsFit {
  /** Move of the saddle, longer positive, and of the nut end (nearer the frets positive), mm, with standard errors. */
  saddleMm: number;
  saddleSigma: number;
  nutMm: number;
  nutSigma: number;
  residuals: { fret: number; cents: number }[];
  verdict: FretsVerdict;
  /** What stands beside it and cannot be told apart, and what would tell; '' where nothing does. */
  doubt: string;
}

const PER_MM = 1200 / Math.LN2;
const FINE_CENTS = 1;
const SCATTER_CENTS = 1;

/**
 * Where several frets put the fault: least squares with two parameters, the saddle's end and the nut's end. A saddle dMm too
 * near sharpens fret n by (1200/ln 2) (2^(n/12) − 1) d / L, a nut dMm too far from the frets every fretted note by
 * (1200/ln 2) d / L (pitch inverse to length, first order).
 * @returns undefined with fewer than two frets
 */
export function judgeFrets(lengthMm: number, readings: readonly FretReading[]): FretsFit | undefined {
  if (new Set(readings.map((r) => r.fret)).size < 2) return undefined;
  const { values, covariance, rest } = weightedFit(
    readings.map((r) => [(PER_MM / lengthMm) * (Math.pow(2, r.fret / 12) - 1), PER_MM / lengthMm]),
    readings.map((r) => r.errorCents),
    readings.map((r) => r.sigmaCents),
  );
  const [saddleMm, nutMm] = values as [number, number];
  const saddleSigma = Math.sqrt(covariance.get(0, 0));
  const nutSigma = Math.sqrt(covariance.get(1, 1));
  const fit = {
    saddleMm,
    saddleSigma,
    nutMm,
    nutSigma,
    residuals: readings.map((r, i) => ({ fret: r.fret, cents: rest[i]! })),
  };
  return { ...fit, ...judge(lengthMm, readings, fit) };
}

function judge(
  lengthMm: number,
  readings: readonly FretReading[],
  fit: Omit<FretsFit, 'verdict' | 'doubt'>,
): Pick<FretsFit, 'verdict' | 'doubt'> {
  const worst = Math.max(...readings.map((r) => Math.abs(r.errorCents)));
  const sigma = mean(readings.map((r) => r.sigmaCents));
  if (worst <= Math.max(FINE_CENTS, 2 * sigma)) return { verdict: 'in-tune', doubt: '' };
  const scatter = mean(readings.map((r) => r.scatterCents ?? 0));
  const allSharp = readings.every((r) => r.errorCents > 0);
  if (allSharp && scatter > SCATTER_CENTS)
    return { verdict: 'pressing', doubt: 'Press more lightly and read again before you move anything.' };
  const off = fit.residuals.map((r) => r.cents);
  if (readings.length > 3 && sampleStandardDeviation(off) > Math.max(FINE_CENTS, 3 * sigma)) {
    const bad = fit.residuals.reduce((a, b) => (Math.abs(b.cents) > Math.abs(a.cents) ? b : a));
    return { verdict: 'frets', doubt: `Fret ${bad.fret} is off by ${bad.cents.toFixed(1)} cents.` };
  }
  // What each end does to the notes, cents at the 12th fret.
  const saddle = Math.abs((PER_MM / lengthMm) * fit.saddleMm);
  const nut = Math.abs((PER_MM / lengthMm) * fit.nutMm);
  const saddleTold = Math.abs(fit.saddleMm) > 2 * fit.saddleSigma && saddle > FINE_CENTS;
  const nutTold = Math.abs(fit.nutMm) > 2 * fit.nutSigma && nut > FINE_CENTS;
  if (saddleTold && nutTold)
    return saddle > nut
      ? { verdict: 'saddle', doubt: 'The nut end is off too. Read frets 1 and 3 again when the saddle is right.' }
      : { verdict: 'nut', doubt: 'The saddle is off too. The nut comes first, and is a job for a repairer.' };
  if (saddleTold) return { verdict: 'saddle', doubt: '' };
  if (nutTold)
    return {
      verdict: 'nut',
      doubt: allSharp ? 'Hard pressing looks the same. Press lightly and read frets 1 and 12.' : '',
    };
  return { verdict: 'unclear', doubt: 'Saddle and nut cannot be told apart here. Read frets 1 and 19 too.' };
}
