import { ratioOfCents, stringTargetHz, transpose, type StringTarget } from '../music';
import type { StringPlan } from '../log';
import { stringLoad, type NamedSpec } from '../strings';

/** Load of a planned string at a pitch; undefined where its physics is unknown. */
export const loadOf = (plan: StringPlan, frequencyHz: number) =>
  stringLoad({
    material: plan.material,
    gaugeMm: plan.gaugeMm ?? undefined,
    lengthMm: plan.lengthMm,
    frequencyHz,
    unitMassKgPerM: plan.unitMassKgPerM,
  });

/** The strings as they pull in a tuning: open, without the capo, over their whole lengths; in order. */
export const openSpecs = (
  plans: readonly StringPlan[],
  targets: readonly StringTarget[],
  capo: number,
  a4Hz: number,
): NamedSpec[] =>
  plans.map(({ material, gaugeMm, lengthMm, unitMassKgPerM }, i) => ({
    note: transpose(targets[i]!.note, -capo),
    material,
    gaugeMm: gaugeMm ?? undefined,
    lengthMm,
    frequencyHz: stringTargetHz(targets[i]!, a4Hz)! * ratioOfCents(-100 * capo),
    unitMassKgPerM,
  }));
