import type { SettlingPrior } from './materials';

/** One assumed course of creep f(t), t in min since the string was brought up, with its prior weight. */
export interface CreepShape {
  weight: number;
  f: (tMin: number) => number;
}

const DAY_MIN = 1440;

/**
 * The grid of creep shapes for a material: logarithmic (Andrade's logarithmic creep), stretched exponential
 * (Kohlrausch), power law and a sum of three relaxations (Prony). Weights and constants are house estimates.
 * Each is scaled so that its slope means cents per e-fold of age whatever the shape: S(1440) = ln(1 + 1440 / tau).
 */
export function creepShapes({ tauMin, steel }: SettlingPrior): CreepShape[] {
  const logarithmic = (factor: number, weight: number): CreepShape => ({
    weight,
    f: (t) => Math.log1p(t / (tauMin * factor)),
  });
  const stretched = (beta: number, days: number, weight: number): CreepShape => {
    const scale = days * DAY_MIN * (steel ? 0.25 : 1);
    return { weight, f: (t) => -Math.expm1(-Math.pow(t / scale, beta)) };
  };
  const power = (exponent: number, weight: number): CreepShape => ({ weight, f: (t) => Math.pow(t, exponent) });
  const third = (steel ? 0.8 : 2) * DAY_MIN;
  const shapes: CreepShape[] = [
    logarithmic(0.27, 0.18),
    logarithmic(1, 0.34),
    logarithmic(4, 0.18),
    stretched(0.28, 1.5, 0.055),
    stretched(0.38, 1.5, 0.055),
    stretched(0.33, 0.25, 0.035),
    power(0.1, 0.045),
    power(0.2, 0.045),
    {
      weight: 0.065,
      f: (t) => -0.5 * Math.expm1(-t / 4) - 0.35 * Math.expm1(-t / 100) - 0.15 * Math.expm1(-t / third),
    },
  ];
  const whole = Math.log1p(DAY_MIN / tauMin);
  return shapes.map(({ weight, f }) => {
    const c = whole / f(DAY_MIN);
    return { weight, f: (t) => (t <= 0 ? 0 : c * f(t)) };
  });
}
