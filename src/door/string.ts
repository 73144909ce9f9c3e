import { mixed, number, object, boolean } from 'yup';
import { adviseRounds } from '../core/settling';
import { STRING_MATERIALS, stringLoad, type StringMaterial } from '../core/strings';
import { checked, refused } from './lines';

const positive = (max: number) => number().strict().positive().max(max);

const stringSchema = object({
  material: mixed<StringMaterial>().oneOf(STRING_MATERIALS).required(),
  gaugeMm: positive(20).nullable().optional(),
  lengthMm: positive(10000).required(),
  frequencyHz: positive(20000).required(),
  unitMassKgPerM: positive(10).nullable().optional(),
  wound: boolean().strict().nullable().optional(),
});

/** One line of `string`: what a string pulls, and how far it is from breaking. */
export function stringLine(item: Record<string, unknown>): object {
  const valid = checked(stringSchema, item, 'bad-string');
  if (!valid.ok) return valid;
  const s = valid.value;
  const isWound = s.material.startsWith('wound');
  if (s.wound === true && !isWound && s.material !== 'synthetic-bowed' && s.material !== 'unknown') {
    return refused('unknown-physics', `Nothing is known of a wound string whose material is ${s.material}.`);
  }
  const load = stringLoad({
    material: s.material,
    gaugeMm: s.gaugeMm ?? undefined,
    lengthMm: s.lengthMm,
    frequencyHz: s.frequencyHz,
    unitMassKgPerM: s.unitMassKgPerM ?? undefined,
  });
  if (!load) {
    return refused(
      'unknown-physics',
      `The mass of this string is not known: give the gauge of a known material, or unitMassKgPerM from the packet.`,
    );
  }
  return { ok: true, ...load };
}

/** One line of `rounds`: the drops of the stretch rounds so far in, the next drop and what to do out. */
export function roundsLine({ dropsCents }: Record<string, unknown>): object {
  const isDrop = (d: unknown) => typeof d === 'number' && Number.isFinite(d) && Math.abs(d) < 2000;
  if (!Array.isArray(dropsCents) || !dropsCents.every(isDrop))
    return refused('bad-drops', 'dropsCents is a list of numbers, cents of fall after each round.');
  return { ok: true, ...adviseRounds(dropsCents as number[]) };
}
