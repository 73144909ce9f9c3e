import { groupBy, type BreakPlace, type InstrumentLife } from '../log';
import type { StringMaterial } from '../strings';
import { DAY, NORMAL_Q95 } from '../base';

/** How long strings of a kind last: the age that half of them reach, and nine of ten such medians lie between these; null where it is open. */
export interface MedianLife {
  days: number | null;
  lowDays: number | null;
  highDays: number | null;
}

/** Of fewer lives none can be said to hold the median nine times of ten: all of four lie on one side of it in one case of eight. */
const FEWEST = 5;

/**
 * The median life from strings that ended and strings that are still on (product-limit estimate, Kaplan and Meier 1958; its interval
 * by inverting the log-log band with Greenwood's variance, Brookmeyer and Crowley 1982). Where none is left the band says nothing new of
 * its upper side.
 * @param lives age in days, and whether it ended then or is still on
 */
export function medianLife(lives: readonly { days: number; ended: boolean }[]): MedianLife {
  const ages = [...new Set(lives.filter((l) => l.ended).map((l) => l.days))].sort((a, b) => a - b);
  let survival = 1;
  let greenwood = 0;
  let high = 1;
  const steps = ages.map((days) => {
    const atRisk = lives.filter((l) => l.days >= days).length;
    const died = lives.filter((l) => l.ended && l.days === days).length;
    survival *= 1 - died / atRisk;
    greenwood += atRisk > died ? died / (atRisk * (atRisk - died)) : Infinity;
    const log = Math.log(survival);
    const spread = survival > 0 ? Math.exp((NORMAL_Q95 * Math.sqrt(greenwood)) / Math.abs(log)) : Infinity;
    if (survival > 0) high = survival ** (1 / spread);
    return { days, survival, low: survival > 0 ? survival ** spread : 0, high };
  });
  const first = (of: 'survival' | 'low' | 'high') => steps.find((s) => s[of] <= 0.5)?.days ?? null;
  const isFew = lives.length < FEWEST;
  return { days: first('survival'), lowDays: isFew ? null : first('low'), highDays: isFew ? null : first('high') };
}

/** What is known of all strings of one material: how many came and went, how long they last, where they broke. */
export interface MaterialLives {
  material: StringMaterial;
  ended: number;
  on: number;
  median: MedianLife;
  broke: Partial<Record<BreakPlace, number>>;
}

/** How long one string was on, or is so far. */
export interface Lasted {
  material: StringMaterial;
  /** What was put on and came off together with it has the same: one decision, and one life to learn from. */
  set: string;
  days: number;
  ended: boolean;
  place: BreakPlace | null;
}

/** How long an instrument's strings lasted; those of which nobody said when they were put on are left out. */
export function lastedOn({ record: { instrumentId }, strings }: InstrumentLife, nowMs: number): Lasted[] {
  const set = (...ms: number[]) => [instrumentId, ...ms.map((at) => Math.floor(at / DAY))].join('/');
  return strings.flatMap(({ plan: { material }, past, strungMs }) => [
    ...past.flatMap(({ strungMs: from, endedMs, place }) =>
      from === null ? [] : [{ material, set: set(from, endedMs), days: (endedMs - from) / DAY, ended: true, place }],
    ),
    ...(strungMs === null
      ? []
      : [{ material, set: set(strungMs), days: (nowMs - strungMs) / DAY, ended: false, place: null }]),
  ]);
}

/** One of each set. */
const oneEach = (lives: readonly Lasted[]): Lasted[] =>
  [...groupBy([...lives], (l) => l.set).values()].map(([one]) => one!);

/** How this player's strings live, by material, the most used first. */
export function livesByMaterial(lasted: readonly Lasted[]): MaterialLives[] {
  return [...groupBy([...lasted], (l) => l.material)]
    .map(([material, lives]): MaterialLives => {
      const broke: MaterialLives['broke'] = {};
      for (const { place } of lives) if (place) broke[place] = (broke[place] ?? 0) + 1;
      const ended = lives.filter((l) => l.ended).length;
      return {
        material: material as StringMaterial,
        ended,
        on: lives.length - ended,
        median: medianLife(oneEach(lives)),
        broke,
      };
    })
    .sort((a, b) => b.ended + b.on - (a.ended + a.on));
}
