import type { InstrumentLife } from '../../../core/log';
import { useAsked } from '../../world/asked';
import { useNow } from '../../world/now';
import { usePriors } from '../../world/priors';
import { HOLD_MIN, TOLERANCE_CENTS } from '../../../core/check';
import { useWorld } from '../../world/world';
import { MINUTE } from '../../../core/base';

/** What stretch rounds have done to each string of an instrument, in a sentence; '' where there were none. */
export function useRoundsTold(life: InstrumentLife): (stringId: string) => string {
  const { bench, zone } = useWorld();
  const { priorsFor } = usePriors();
  const nowMs = Math.ceil(useNow(MINUTE) / MINUTE) * MINUTE;
  const { instrumentId } = life.record;
  const curtainMs = bench.curtain?.curtainMs && bench.curtain.curtainMs > nowMs ? bench.curtain.curtainMs : null;
  const { data } = useAsked({
    question: 'story',
    subject: `${instrumentId}/rounds`,
    of: life,
    ask: {
      instrumentId,
      wish: {
        nowMs,
        toleranceCents: TOLERANCE_CENTS,
        holdMin: HOLD_MIN,
        curtainMs,
        untilMs: nowMs + 60 * MINUTE,
        priors: priorsFor(instrumentId),
        zone,
      },
    },
    enabled: life.strings.some((s) => s.rounds.length > 0),
  });
  return (stringId) => data?.strings.find((s) => s.stringId === stringId)?.rounds ?? '';
}
