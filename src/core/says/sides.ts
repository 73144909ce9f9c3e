import { mean } from 'simple-statistics';
import type { StringRef, TrialRecord } from '../log';
import type { Statement } from './statement';

/** What is to come of one side of a comparison, over its strings. */
export interface TrialSide {
  name: 'treated' | 'untreated';
  /** Fall in a day, and chance to hold as long as is asked for. */
  perDay: string;
  holds: string;
}

/** What is to come of the treated strings of a comparison, and of the others; none where nothing is forecast of a side. */
export function trialSides(pairs: TrialRecord['pairs'], said: readonly Statement[]): TrialSide[] {
  const figures = (refs: readonly StringRef[], kind: Statement['kind']) =>
    refs.flatMap((r) => {
      const s = said.find((x) => x.kind === kind && x.instrument === r.instrumentId && x.string === r.stringId);
      return s ? [s] : [];
    });
  return (['treated', 'control'] as const).flatMap((side): TrialSide[] => {
    const refs = pairs.map((p) => p[side]);
    const falls = figures(refs, 'per-day').map((s) => Number(s.value));
    const chances = figures(refs, 'hold-chance').map((s) => s.chance!);
    if (falls.length === 0 || chances.length === 0) return [];
    return [
      {
        name: side === 'treated' ? 'treated' : 'untreated',
        perDay: `${mean(falls).toFixed(1)} cents`,
        holds: `${(100 * mean(chances)).toFixed(0)} %`,
      },
    ];
  });
}
