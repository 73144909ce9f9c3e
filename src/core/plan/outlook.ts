import {
  chanceToHold,
  fallAhead,
  fitSettling,
  mixtureQuantile,
  type SettlingFit,
  type SettlingMaterial,
  type SettlingPrior,
} from '../settling';

const MINUTE = 60000;
/** From this chance on a string is left alone through the show (house, with MARGIN; lower ones were wrong too often in bench/plan). */
export const READY = 0.95;
/**
 * Share of the tolerance that the plan counts on: what no model knows (a draught, a hard pluck, a hand's error) takes the rest.
 * House calibration by bench/plan: without it 5 % of strings of the first two days were declared ready wrongly.
 */
const MARGIN = 0.9;

/** Chance that a string standing at offsetCents stays within tolerance for so long, with the plan's margin. */
export function chanceInShow(fit: SettlingFit, minutes: number, toleranceCents: number, offsetCents: number): number {
  return chanceToHold(fit, minutes, MARGIN * toleranceCents, offsetCents);
}
/** Rounds and treatment leave about this share of a new string's slope (house estimate, to be tested as a trial). */
const MADE_READY = 0.55;

/** A fresh string as its prior alone describes it, at an age. */
export function freshFit(
  material: SettlingMaterial,
  prior: SettlingPrior,
  ageMin: number,
  madeReady: boolean,
): SettlingFit {
  const known = madeReady ? { ...prior, slopeCents: prior.slopeCents * MADE_READY } : prior;
  return fitSettling(
    {
      material,
      prior: known,
      events: [
        { t: 0, kind: 'retune' },
        { t: ageMin, kind: 'retune' },
      ],
    },
    ageMin,
  );
}

/** What restringing at a moment would mean at the show, from priors and the record. */
export interface RestringOutlook {
  chance: number;
  /** Fall from the last tuning to the interval, or the end where there is none, cents. */
  fall: { q05: number; q50: number; q95: number };
}

export function ifRestrung(
  string: { material: SettlingMaterial; prior: SettlingPrior },
  restrungMs: number,
  tunedMs: number,
  intervalMs: number,
  endMs: number,
  toleranceCents: number,
  madeReady: boolean,
): RestringOutlook {
  const fit = freshFit(string.material, string.prior, Math.max(1, (tunedMs - restrungMs) / MINUTE), madeReady);
  const mix = fallAhead(fit, Math.max(1, (intervalMs - tunedMs) / MINUTE));
  return {
    chance: chanceInShow(fit, Math.max(1, (endMs - tunedMs) / MINUTE), toleranceCents, 0),
    fall: { q05: mixtureQuantile(mix, 0.05), q50: mixtureQuantile(mix, 0.5), q95: mixtureQuantile(mix, 0.95) },
  };
}

const LONGEST_MIN = 30 * 1440;

/** Age at which a fresh string is ready to hold for so long, min, to a twentieth; null where a month is not enough. */
export function readyAgeMin(
  string: { material: SettlingMaterial; prior: SettlingPrior },
  holdMin: number,
  toleranceCents: number,
  madeReady: boolean,
): number | null {
  const isReady = (age: number) =>
    chanceInShow(freshFit(string.material, string.prior, age, madeReady), holdMin, toleranceCents, 0) >= READY;
  if (!isReady(LONGEST_MIN)) return null;
  let low = 10;
  let high = LONGEST_MIN;
  if (isReady(low)) return low;
  while (high / low > 1.05) {
    const middle = Math.sqrt(low * high);
    if (isReady(middle)) high = middle;
    else low = middle;
  }
  return high;
}
