import { stringTargetHz } from '../music';
import type { InstrumentLife, StringLife } from '../log';
import { centsPerTurn, fineTravelLeft, traitsOf, tunerPlace, type TunerPlace } from '../strings';
import { loadOf } from './load';
import { MOST_GAIN, type TunerKnown } from './turning';
import { clamp } from '../base';

/** Where a string's tuner stands. */
export function tunerPlaceOf(life: InstrumentLife, stringId: string): TunerPlace {
  const index = life.strings.findIndex((s) => s.plan.stringId === stringId);
  return tunerPlace(traitsOf(life.record).layout, index, life.strings.length);
}

/** What is known of a string's tuner: its place, its build, what its bring-ups have taught. */
export function tunerOf(life: InstrumentLife, string: StringLife, a4Hz: number): TunerKnown {
  const traits = traitsOf(life.record);
  const { plan, tuner, readings } = string;
  const pairs = readings.flatMap((r, i) => {
    const before = readings[i - 1];
    return before && r.purpose === 'as-left' ? [{ found: before.cents, left: r.cents }] : [];
  });
  return {
    place: plan.tuner ?? tunerPlaceOf(life, plan.stringId).words,
    kind: traits.tuner,
    perTurn: centsPerTurn(plan, loadOf(plan, stringTargetHz(plan, a4Hz)!), traits),
    other: tuner?.other ?? false,
    gain: clamp(tuner?.gain ?? 1, 1 / MOST_GAIN, MOST_GAIN),
    fineLeft: fineTravelLeft(pairs),
  };
}
