import { clockSteps, type SettlingFit } from './fit';
import { fallAhead, mixtureMean } from './forecast';
import { SLOPE } from './process';
import { minutesOfAge } from './hands';

/** The same string if hands had not aged it: what they took would still be to come. */
const untouched = (fit: SettlingFit): SettlingFit => ({
  ...fit,
  components: fit.components.map((c) => ({ ...c, agedMin: 0 })),
});

/** Fall ahead, mean, cents, had the string not been pulled, warmed or played. */
export const fallWithoutHands = (fit: SettlingFit, hMin: number): number =>
  mixtureMean(fallAhead(untouched(fit), hMin));

/**
 * What another round would spare of the fall within a time, cents: its drop, as far as it is ageing, comes out of what is ahead.
 * @param dropCents the drop that is to be expected of it
 */
export function gainOfRound(fit: SettlingFit, dropCents: number, hMin: number): number {
  const { nowMin, shapes, prior } = fit;
  const event = { t: nowMin, kind: 'stretch' as const };
  const aged: SettlingFit = {
    ...fit,
    components: fit.components.map((c) => {
      const { shape, ageingShare: share } = c.hypothesis;
      const slope = Math.max(c.mean[SLOPE]!, 1e-3);
      const age = nowMin + c.agedMin;
      const more = minutesOfAge(share * dropCents, slope, shapes[shape]!, age, { event, share, prior });
      return { ...c, agedMin: c.agedMin + more };
    }),
  };
  const now = clockSteps(fit, nowMin, nowMin + hMin);
  const then = clockSteps(aged, nowMin, nowMin + hMin);
  return fit.components.reduce((sum, c, i) => sum + c.share * c.mean[SLOPE]! * (now(c) - then(aged.components[i]!)), 0);
}
