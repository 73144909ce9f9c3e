import { agreeing } from '../partials/agreeing';
import type { Reading } from './types';

/** How far a string moved between two readings, cents, with its own standard error and the partials it rests on. */
export interface PitchChange {
  cents: number;
  sigmaCents: number;
  partials: number;
}

const CENTS = 1200 / Math.LN2;
/** What two plucks differ by in each partial, in cents and in Hz (house estimates, set by the pitch benchmark). */
const FLOOR_CENTS = 0.08;
const FLOOR_HZ = 0.015;
/** Share of the two readings' own standard errors that moves all their partials together (house estimate, same). */
const COMMON_SHARE = 0.6;

/**
 * Change between two readings of the same string, partial n against the same partial n: stiffness and body coupling
 * cancel. Robust weighted mean (Student-t weights). Falls back on the two pitches when no partial is common.
 */
export function changeBetween(
  from: Pick<Reading, 'frequencyHz' | 'sigmaCents' | 'partials'>,
  to: Pick<Reading, 'frequencyHz' | 'sigmaCents' | 'partials'>,
): PitchChange {
  const pairs = to.partials.flatMap((p) => {
    const q = from.partials.find((f) => f.n === p.n);
    if (!q) return [];
    const own = CENTS * Math.hypot(p.sigmaHz / p.frequencyHz, q.sigmaHz / q.frequencyHz);
    return [
      {
        d: CENTS * Math.log(p.frequencyHz / q.frequencyHz),
        own: Math.hypot(own, FLOOR_CENTS, (CENTS * FLOOR_HZ) / p.frequencyHz),
      },
    ];
  });
  if (pairs.length === 0) {
    return {
      cents: CENTS * Math.log(to.frequencyHz / from.frequencyHz),
      sigmaCents: Math.hypot(from.sigmaCents, to.sigmaCents),
      partials: 0,
    };
  }
  const { mean, sigma } = agreeing(pairs.map((p) => ({ cents: p.d, sd: p.own })));
  const common = COMMON_SHARE * Math.hypot(from.sigmaCents, to.sigmaCents);
  return { cents: mean, sigmaCents: Math.hypot(sigma, common), partials: pairs.length };
}
