import { clockSteps, type SettlingFit } from './fit';
import { fallAhead, mixtureMean } from './forecast';
import { creepClock, minutesOfAge, SLOPE } from './process';

/** The same string if hands had not aged it: what they took would still be to come. */
const untouched = (fit: SettlingFit): SettlingFit => ({
  ...fit,
  components: fit.components.map((c) => ({ ...c, aged: [] })),
});

/** Fall ahead, mean, cents, had the string not been pulled, warmed or played. */
export const fallWithoutHands = (fit: SettlingFit, hMin: number): number =>
  mixtureMean(fallAhead(untouched(fit), hMin));

/**
 * What another round would spare of the fall within a time, cents: its drop, as far as it is ageing, comes out of what is ahead.
 * @param dropCents the drop that is to be expected of it
 */
export function gainOfRound(fit: SettlingFit, dropCents: number, hMin: number): number {
  const { nowMin, retunes, shapes } = fit;
  const event = { t: nowMin, kind: 'stretch' as const };
  const aged: SettlingFit = {
    ...fit,
    components: fit.components.map((c) => {
      const { shape, kappa, ageingShare: share } = c.hypothesis;
      const clockAt = (extra: number) =>
        creepClock(shapes[shape]!, kappa, retunes, nowMin, [...c.aged, { t: nowMin, minutes: extra }]);
      const minutes = minutesOfAge(share * dropCents, Math.max(c.mean[SLOPE]!, 1e-3), clockAt, {
        event,
        share,
        prior: fit.prior,
      });
      return { ...c, aged: [...c.aged, { t: nowMin, minutes }] };
    }),
  };
  const now = clockSteps(fit, nowMin, nowMin + hMin);
  const then = clockSteps(aged, nowMin, nowMin + hMin);
  return fit.components.reduce((sum, c, i) => sum + c.share * c.mean[SLOPE]! * (now(c) - then(aged.components[i]!)), 0);
}
