import { WANDER_MIN } from './filter';
import { clockSteps, frictionBetween, type SettlingFit } from './fit';

/**
 * The fit as it will stand at a later time if nothing more is read: every hypothesis predicted on (Kalman 1960), just as a fit
 * at that time would find it.
 * @param toMin min since strung, not before fit.nowMin
 */
export function carryTo(fit: SettlingFit, toMin: number): SettlingFit {
  const dt = toMin - fit.nowMin;
  if (dt <= 0) return fit;
  const e = Math.exp(-dt / WANDER_MIN);
  const friction = frictionBetween(fit.retunes, fit.nowMin, toMin);
  const clockStep = clockSteps(fit, fit.nowMin, toMin);
  const components = fit.components.map((c) => {
    const du = clockStep(c.hypothesis);
    const stationary = c.wanderSd ** 2;
    const [o, a, b, m] = c.mean;
    const at = (row: number, column: number) => c.cov[4 * row + column]!;
    const oo =
      at(0, 0) +
      du * du * at(1, 1) -
      2 * du * at(0, 1) +
      (c.q * du ** 3) / 3 +
      0.0625 * Math.min(2, du) +
      friction.sd ** 2;
    const oa = at(0, 1) - du * at(1, 1) - (c.q * du * du) / 2;
    const ob = at(0, 2) - du * at(1, 2);
    const om = (at(0, 3) - du * at(1, 3)) * e;
    const am = at(1, 3) * e;
    const bm = at(2, 3) * e;
    const mm = at(3, 3) * e * e + stationary * (1 - e * e);
    const aa = at(1, 1) + c.q * du;
    const cov = Float64Array.of(oo, oa, ob, om, oa, aa, at(1, 2), am, ob, at(1, 2), at(2, 2), bm, om, am, bm, mm);
    return { ...c, mean: [o - a * du - friction.mean, a, b, m * e] as typeof c.mean, cov };
  });
  return { ...fit, nowMin: toMin, components };
}
