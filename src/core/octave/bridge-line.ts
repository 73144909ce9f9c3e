import { linearRegression, mean } from 'simple-statistics';
import { errorAfterMove, saddleMoveMm } from './saddle-law';

/** One string, or one course, over a straight loose bridge. */
export interface BridgeString {
  /** Where it crosses the bridge, mm from the low side. */
  acrossMm: number;
  lengthMm: number;
  /** Octave error, sharp positive, cents. */
  errorCents: number;
}

export interface BridgeLine {
  /** Moves of the bridge under the two outer strings, longer (away from the nut) positive, mm. */
  footMoves: { lowMm: number; highMm: number };
  /** Octave error left on each string, in the order given, cents. */
  residualCents: number[];
  /** Where a straight bridge leaves more than 3 cents: how far behind the line each string would bear, mm. */
  compensation: number[] | null;
  /** The straight line that serves all strings best instead, by least squares of the moves. */
  leastSquares: { lowMm: number; highMm: number; residualCents: number[] };
}

const STRAIGHT_CENTS = 3;
/** Outer strings closer than this give no slant, mm. */
const NARROWEST_MM = 1;

/**
 * How to set a straight loose bridge: under each outer string it goes as far as that string asks, and the rest follow the line.
 * @returns undefined where all strings cross at one place, so that there is no slant to tell
 */
export function bridgeLine(strings: readonly BridgeString[]): BridgeLine | undefined {
  const across = strings.map((s) => s.acrossMm);
  const low = Math.min(...across);
  const high = Math.max(...across);
  if (strings.length < 2 || high - low < NARROWEST_MM) return undefined;
  const moves = strings.map((s) => saddleMoveMm(s.lengthMm, s.errorCents));
  // Strings of a course cross at nearly one place: their mean counts.
  const near = (at: number) => mean(moves.filter((_, i) => Math.abs(across[i]! - at) < NARROWEST_MM));
  const lowMm = near(low);
  const highMm = near(high);
  const lineAt = (at: number, from: number, to: number) => from + ((to - from) * (at - low)) / (high - low);
  const left = (from: number, to: number) =>
    strings.map((s) => errorAfterMove(s.lengthMm, s.errorCents, lineAt(s.acrossMm, from, to)));
  const residualCents = left(lowMm, highMm);
  const { m, b } = linearRegression(across.map((a, i) => [a, moves[i]!]));
  const fitted = { lowMm: b + m * low, highMm: b + m * high };
  return {
    footMoves: { lowMm, highMm },
    residualCents,
    compensation: residualCents.some((r) => Math.abs(r) > STRAIGHT_CENTS)
      ? strings.map((s, i) => moves[i]! - lineAt(s.acrossMm, lowMm, highMm))
      : null,
    leastSquares: { ...fitted, residualCents: left(fitted.lowMm, fitted.highMm) },
  };
}
