import { linearRegression } from 'simple-statistics';
import { cents } from '../music';

/** An A of a keyboard: how many octaves it lies from A4, and where it stands, Hz. */
export interface KeyboardA {
  octaves: number;
  frequencyHz: number;
}

/** How much wider than pure the octaves of a keyboard are, cents an octave: a line through its As. Undefined of one alone. */
export function octaveStretch(as: readonly KeyboardA[]): number | undefined {
  const places = new Set(as.map((a) => a.octaves));
  if (places.size < 2) return undefined;
  const off = as.map((a): [number, number] => [a.octaves, cents(a.frequencyHz, 440 * 2 ** a.octaves)]);
  return linearRegression(off).m;
}
