import { useState } from 'react';
import { changeBetween, type Reading } from '../../../core/pitch';
import type { ReadingRecord, StringLife } from '../../../core/records';
import { adviseRounds } from '../../../core/settling';

export type RoundPhase = 'stretch' | 'read' | 'up';

/** Where a string is in its stretch rounds; the rounds themselves are in the log. */
export function useRounds(life: StringLife | undefined) {
  const [state, setState] = useState<{ stringId: string | undefined; phase: RoundPhase }>({
    stringId: life?.plan.stringId,
    phase: 'stretch',
  });
  if (state.stringId !== life?.plan.stringId) setState({ stringId: life?.plan.stringId, phase: 'stretch' });
  const drops = (life?.rounds ?? []).map((r) => r.dropCents);
  return {
    phase: state.phase,
    setPhase: (phase: RoundPhase) => setState({ stringId: life?.plan.stringId, phase }),
    drops,
    advice: adviseRounds(drops),
  };
}

/** How far a string dropped since its last reading, partial by partial where both have partials; flat positive, cents. */
export function dropSince(last: ReadingRecord | undefined, now: Reading): number {
  if (!last) return -now.cents;
  const change = changeBetween(last, now);
  return -(change.partials > 0 ? change.cents : now.cents - last.cents);
}
