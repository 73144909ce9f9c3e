import { nextStep, type PassStep } from '../../../core/pass';
import type { InstrumentLife, StringStatus } from '../../../core/records';
import { usePass } from '../../pass/usePass';
import { TOLERANCE_CENTS } from '../../store/status';

/** The check pass under way on one instrument. */
export function useCheckPass(
  life: InstrumentLife | undefined,
  statuses: StringStatus[],
  say: (sentence: string) => void,
) {
  return usePass<PassStep>(
    'check',
    life?.record.instrumentId ?? '',
    (pass) => life && nextStep(life.strings, statuses, pass, TOLERANCE_CENTS),
    say,
  );
}
