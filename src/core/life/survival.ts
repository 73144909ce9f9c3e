import { groupBy, type BreakPlace, type InstrumentLife } from '../log';
import type { StringMaterial } from '../strings';

/** How long strings of a kind last: the age that half of them reach, and nine of ten such medians lie between these; null where it is open. */
export interface MedianLife {
  days: number | null;
  lowDays: number | null;
  highDays: number | null;
}

const DAY = 86400000;
/** Nine of ten, standard normal. */
const Z90 = 1.645;

/**
 * The median life from strings that ended and strings that are still on (product-limit estimate, Kaplan and Meier 1958; its interval
 * by inverting the log-log band with Greenwood's variance, Brookmeyer and Crowley 1982).
 * @param lives age in days, and whether it ended then or is still on
 */
export function medianLife(lives: readonly { days: number; ended: boolean }[]): MedianLife {
  const ages = [...new Set(lives.filter((l) => l.ended).map((l) => l.days))].sort((a, b) => a - b);
  let survival = 1;
  let greenwood = 0;
  const steps = ages.map((days) => {
    const atRisk = lives.filter((l) => l.days >= days).length;
    const died = lives.filter((l) => l.ended && l.days === days).length;
    survival *= 1 - died / atRisk;
    greenwood += atRisk > died ? died / (atRisk * (atRisk - died)) : Infinity;
    const log = Math.log(survival);
    const spread = survival > 0 ? Math.exp((Z90 * Math.sqrt(greenwood)) / Math.abs(log)) : Infinity;
    const band = survival > 0 ? [survival ** spread, survival ** (1 / spread)] : [0, 0];
    return { days, survival, low: band[0]!, high: band[1]! };
  });
  const first = (of: 'survival' | 'low' | 'high') => steps.find((s) => s[of] <= 0.5)?.days ?? null;
  return { days: first('survival'), lowDays: first('low'), highDays: first('high') };
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
  days: number;
  ended: boolean;
  place: BreakPlace | null;
}

/** How long an instrument's strings lasted; those of which nobody said when they were put on are left out. */
export const lastedOn = ({ strings }: InstrumentLife, nowMs: number): Lasted[] =>
  strings.flatMap(({ plan: { material }, past, strungMs }) => [
    ...past.flatMap(({ strungMs: from, endedMs, place }) =>
      from === null ? [] : [{ material, days: (endedMs - from) / DAY, ended: true, place }],
    ),
    ...(strungMs === null ? [] : [{ material, days: (nowMs - strungMs) / DAY, ended: false, place: null }]),
  ]);

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
        median: medianLife(lives),
        broke,
      };
    })
    .sort((a, b) => b.ended + b.on - (a.ended + a.on));
}
