/** String materials the settling model knows; the codes are part of the open formats. */
export const MATERIAL_CODES = [
  'plain-nylon',
  'wound-nylon',
  'plain-steel',
  'wound-steel',
  'gut',
  'synthetic-bowed',
  'fluorocarbon',
  'unknown',
] as const;
export type SettlingMaterial = (typeof MATERIAL_CODES)[number];

/** How a material settles; house estimates throughout, set by simulation studies, no real strings yet. */
export interface SettlingPrior {
  /** Typical slope A, cents of fall per e-fold of age. */
  slopeCents: number;
  /** Spread s of ln slope between strings. */
  slopeSpread: number;
  /** Start of the logarithmic law, min. */
  tauMin: number;
  /** Temperature coefficient and its sd, cents per deg C. */
  tempMean: number;
  tempSd: number;
  /** Reversible wander with a thermometer, cents. */
  wanderCents: number;
  steel: boolean;
}

const row = (
  slopeCents: number,
  slopeSpread: number,
  tauMin: number,
  tempMean: number,
  tempSd: number,
  wanderCents: number,
  steel = false,
): SettlingPrior => ({ slopeCents, slopeSpread, tauMin, tempMean, tempSd, wanderCents, steel });

export const SETTLING_PRIORS: Record<SettlingMaterial, SettlingPrior> = {
  'plain-nylon': row(45, 0.5, 1.5, -1.5, 1.5, 1.5),
  'wound-nylon': row(22, 0.5, 1.5, -2.0, 1.2, 1.5),
  'plain-steel': row(2.5, 0.7, 2, -2.0, 0.8, 0.8, true),
  'wound-steel': row(3.0, 0.7, 2, -1.5, 0.8, 0.8, true),
  gut: row(28, 0.5, 2, -1.0, 1.5, 2.5),
  'synthetic-bowed': row(10, 0.5, 2, -1.5, 1.0, 1.5),
  fluorocarbon: row(32, 0.5, 1.5, -1.5, 1.5, 1.5),
  unknown: row(12, 1.3, 2, -1.5, 1.5, 1.5),
};
