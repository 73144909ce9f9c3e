import { MINUTE } from '../base';
import type { StringLife } from '../log';
import { ageFromMs, fallsByAge } from '../status';
import { SETTLES_AS } from '../strings';
import { countedFrom, countedFromMs, judgeTrial, type Trial } from '../trial';

/**
 * What a treatment did by pairs of strings, one treated and one not: of both, what was read from the treatment on counts, by age.
 * Undefined where nothing tells.
 * @param endedMs readings after it do not count; null while it goes on
 */
export function trialOf(
  pairs: readonly { treated: StringLife; control: StringLife }[],
  endedMs: number | null,
): Trial | undefined {
  const material = pairs[0] ? SETTLES_AS[pairs[0].treated.plan.material] : 'unknown';
  const falls = pairs.map(({ treated, control }) => {
    const fromMs = countedFromMs(treated);
    const of = (life: StringLife) => {
      const readings = life.readings.filter((r) => r.atMs <= (endedMs ?? Infinity));
      const start = ageFromMs(life);
      return countedFrom(fallsByAge({ ...life, readings }), start === undefined ? 0 : (fromMs - start) / MINUTE);
    };
    return { treated: of(treated), control: of(control) };
  });
  return judgeTrial(falls, material);
}
