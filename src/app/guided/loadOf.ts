import type { StringPlan } from '../../core/records';
import { stringLoad } from '../../core/strings';

/** Load of a planned string at a pitch; undefined where its physics is unknown. */
export const loadOf = (plan: StringPlan, frequencyHz: number) =>
  stringLoad({
    material: plan.material,
    gaugeMm: plan.gaugeMm ?? undefined,
    lengthMm: plan.lengthMm,
    frequencyHz,
    unitMassKgPerM: plan.unitMassKgPerM,
  });
