import { MECHANICS, type StringMaterial } from './materials';

/** Cents for a change of the tension's natural logarithm by one: f goes with the root of T (Taylor's law). */
export const CENTS_PER_LN_TENSION = 600 / Math.LN2;
/** Thermal expansion of music wire, 1 / deg C (handbook value). */
const WIRE_EXPANSION = 11.5e-6;

/**
 * Axial stiffness E A of what carries the load, N.
 * @returns undefined where the material's modulus or the gauge is unknown
 */
export function axialStiffnessN(material: StringMaterial, gaugeMm: number | undefined): number | undefined {
  const mechanics = MECHANICS[material];
  if (!mechanics || !gaugeMm) return undefined;
  const sectionM2 = (mechanics.coreFill * Math.PI * (mechanics.coreMm(gaugeMm) * 1e-3) ** 2) / 4;
  return mechanics.youngGPa * 1e9 * sectionM2;
}

/**
 * Cents by which 1 mm of string taken up raises the pitch: (600 / ln 2) E A / (T L) * 1e-3, from f proportional to the root
 * of T and Hooke's law.
 * @param totalLengthMm from the anchor to the tuner
 */
export function centsPerMm(stiffnessN: number, tensionN: number, totalLengthMm: number): number {
  return (CENTS_PER_LN_TENSION * stiffnessN) / (tensionN * totalLengthMm);
}

/** String taken up by one turn of the hand, mm: pi D on a friction peg or pin, pi D / ratio on geared tuners. */
export function takenUpPerTurnMm(postMm: number, gearRatio = 1): number {
  return (Math.PI * postMm) / gearRatio;
}

/**
 * Slack to leave for a number of turns round the post, mm: turns times the circumference at the middle of the string.
 * @param postMm diameter of the post, peg or pin
 * @param gaugeMm of the string, 0 where unknown
 */
export function slackForTurnsMm(turns: number, postMm: number, gaugeMm = 0): number {
  return turns * Math.PI * (postMm + gaugeMm);
}

/** How much further round a peg's handle ends when the tail is longer by this much, degrees: 360 longer / (pi D). */
export function handleAngleDeg(longerMm: number, postMm: number): number {
  return (360 * longerMm) / (Math.PI * postMm);
}

/** A movement of the hand in minutes on a clock face, 6 degrees each, for a change in cents. */
export function clockMinutes(cents: number, centsPerTurn: number): number {
  return (60 * cents) / centsPerTurn;
}

/**
 * Change of pitch with the string's own temperature, cents per deg C: -(600 / ln 2) E A alpha / T. The body, which warms
 * more slowly and expands too, makes it less.
 * @returns undefined for all but steel: the expansion of the others is not known well enough
 */
export function centsPerDegree(material: StringMaterial, stiffnessN: number, tensionN: number): number | undefined {
  if (!material.includes('steel')) return undefined;
  return (-CENTS_PER_LN_TENSION * stiffnessN * WIRE_EXPANSION) / tensionN;
}
