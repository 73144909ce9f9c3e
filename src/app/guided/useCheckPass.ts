import { type PassStep } from '../../core/guided';
import { nextStep } from '../../core/check';
import type { InstrumentLife, StringStatus } from '../../core/records';
import { usePass } from './usePass';
import { TOLERANCE_CENTS } from '../world/status';

/** The check pass under way on one instrument. */
export function useCheckPass(life: InstrumentLife, statuses: StringStatus[], say: (sentence: string) => void) {
  const pass = usePass<PassStep>(
    'check',
    life.record.instrumentId,
    (p) => nextStep(life.strings, statuses, p, TOLERANCE_CENTS),
    say,
  );
  return {
    ...pass,
    /** This string first; without a pass under way it is the only one. */
    chooseIn: (of: InstrumentLife, step: PassStep) =>
      pass.choose(
        step,
        of.strings.map((s) => s.plan.stringId),
      ),
  };
}
