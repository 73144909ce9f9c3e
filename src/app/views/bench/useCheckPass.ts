import { nextStep, type InstrumentLife, type PassStep, type StringStatus } from '../../../core/records';
import { usePass } from '../../guide/usePass';
import { TOLERANCE_CENTS } from '../../store/status';

/** The check pass under way on one instrument. */
export function useCheckPass(key: string, life: InstrumentLife | undefined, statuses: StringStatus[]) {
  return usePass<PassStep>(key, (pass) => life && nextStep(life.strings, statuses, pass, TOLERANCE_CENTS));
}
