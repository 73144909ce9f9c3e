import { clockSteps, type SettlingFit } from './fit';
import { frictionBetween, keptOver, stepState } from './process';

/** The fit of a string that a hand brings up now. @param sizeCents how far */
export const broughtUp = (fit: SettlingFit, sizeCents: number): SettlingFit => ({
  ...fit,
  retunes: [...fit.retunes, { t: fit.nowMin, sizeCents }],
});

/**
 * The fit as it will stand at a later time if nothing more is read: every hypothesis stepped on, just as a fit at that time
 * would find it.
 * @param toMin min since strung, not before fit.nowMin
 */
export function carryTo(fit: SettlingFit, toMin: number): SettlingFit {
  const dtMin = toMin - fit.nowMin;
  if (dtMin <= 0) return fit;
  const friction = frictionBetween(fit.retunes, fit.nowMin, toMin);
  const shared = { kept: keptOver(dtMin), frictionMean: friction.mean, frictionSd: friction.sd };
  const clockStep = clockSteps(fit, fit.nowMin, toMin);
  const components = fit.components.map((c) => {
    const mean = Float64Array.from(c.mean);
    const cov = Float64Array.from(c.cov);
    stepState(mean, cov, { ...shared, du: clockStep(c), q: c.q, wanderSd: c.wanderSd });
    return { ...c, mean, cov };
  });
  return { ...fit, nowMin: toMin, components };
}
