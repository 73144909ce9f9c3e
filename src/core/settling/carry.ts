import { WANDER_MIN } from './filter';
import { creepClock, type SettlingFit } from './fit';

/**
 * The fit as it will stand at a later time if nothing more is read: every hypothesis predicted on (Kalman 1960). The string
 * counts as at pitch then; how far it fell until then is not part of it.
 * @param toMin min since strung, not before fit.nowMin
 */
export function carryTo(fit: SettlingFit, toMin: number): SettlingFit {
  const dt = toMin - fit.nowMin;
  if (dt <= 0) return fit;
  const e = Math.exp(-dt / WANDER_MIN);
  const components = fit.components.map((c) => {
    const shape = fit.shapes[c.hypothesis.shape]!;
    const du =
      creepClock(shape, c.hypothesis.kappa, fit.retunes, toMin) -
      creepClock(shape, c.hypothesis.kappa, fit.retunes, fit.nowMin);
    const cov = Float64Array.from(c.cov);
    const stationary = c.wanderSd ** 2;
    cov[5] = c.cov[5]! + c.q * du;
    cov[7] = cov[13] = c.cov[7]! * e;
    cov[15] = c.cov[15]! * e * e + stationary * (1 - e * e);
    const [o, a, b, m] = c.mean;
    return { ...c, mean: [o - a * du, a, b, m * e] as typeof c.mean, cov };
  });
  return { ...fit, nowMin: toMin, components };
}
