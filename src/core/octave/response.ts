import { saddleMoveMm } from './saddle-law';

/** A move of one saddle and the octave errors read before and after it, with one reading's standard error. */
export interface BridgeMove {
  moveMm: number;
  beforeCents: number;
  afterCents: number;
  sigmaCents: number;
}

export interface BridgeResponse {
  /** Change of the octave error for each mm longer, cents (negative). */
  centsPerMm: number;
  sigma: number;
  /** Moves it was learned from; 0 where geometry alone speaks. */
  moves: number;
}

/** How far a real bridge strays from plain geometry (house estimate): threads, tilting saddles, changed break angles. */
const SPREAD = 0.2;

/**
 * This bridge's own response: geometry as the prior, moves that were made as the data (normal linear regression through the
 * origin; Gelman et al., Bayesian Data Analysis).
 */
export function learnResponse(lengthMm: number, moves: readonly BridgeMove[]): BridgeResponse {
  const geometry = -1 / saddleMoveMm(lengthMm, 1);
  let precision = 1 / (SPREAD * geometry) ** 2;
  let weighted = geometry * precision;
  for (const m of moves) {
    // Before and after each rest on two readings.
    const variance = 4 * m.sigmaCents ** 2;
    precision += m.moveMm ** 2 / variance;
    weighted += (m.moveMm * (m.afterCents - m.beforeCents)) / variance;
  }
  return { centsPerMm: weighted / precision, sigma: Math.sqrt(1 / precision), moves: moves.length };
}
