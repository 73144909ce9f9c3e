import { ageFromMs, totalFallSeries, type InstrumentLife, type PastLife } from '../records';
import { SETTLING_PRIORS, type SettlingMaterial, type SettlingPrior } from '../settling';
import { SETTLES_AS } from '../strings';
import { slopesOf, type TrialReading } from '../trial';

/** What a string starts from: the house's estimate, or that made narrower by sets that went before. */
export interface LearnedPrior {
  prior: SettlingPrior;
  /** Earlier sets it rests on; 0 for the house's own. */
  sets: number;
}

const MINUTE = 60000;
const FEWEST_READINGS = 4;
/** A string says something of its kind when its record spans this, min. */
const SPAN_MIN = 120;
/** Share of the prior's variance that lies between kinds of string and players; the rest between like strings (house). */
const BETWEEN = 0.7;

/** Total falls of a string by its age. */
export const fallsByAge = (life: Pick<PastLife, 'readings' | 'strungMs'>): TrialReading[] => {
  const start = ageFromMs(life);
  return totalFallSeries(life.readings).map((fall, i) => ({ t: (life.readings[i]!.atMs - start!) / MINUTE, fall }));
};

const speaks = (life: Pick<PastLife, 'readings' | 'strungMs'>): boolean => {
  const first = life.readings[0];
  const last = life.readings[life.readings.length - 1];
  // A string that was old when its record began shows nothing of how one begins.
  return (
    life.strungMs !== null &&
    life.readings.length >= FEWEST_READINGS &&
    last!.atMs - first!.atMs >= SPAN_MIN * MINUTE &&
    first!.atMs - life.strungMs < SPAN_MIN * MINUTE
  );
};

/**
 * The prior of a material's slope after the sets that were: ln slope normal, its mean and spread by precision weighting (normal
 * model with known variances; Gelman et al., Bayesian Data Analysis).
 * @param forInstrumentId its present strings are left out: they are what the prior is for
 */
export function learnedPrior(
  instruments: readonly InstrumentLife[],
  forInstrumentId: string,
  material: SettlingMaterial,
): LearnedPrior {
  const house = SETTLING_PRIORS[material];
  const strings: TrialReading[][] = [];
  let sets = 0;
  for (const { record, strings: lives } of instruments) {
    const own = lives.filter((l) => SETTLES_AS[l.plan.material] === material);
    const generations = Math.max(0, ...own.map((l) => l.past.length));
    for (let back = 1; back <= generations; back++) {
      const of = own.flatMap((l) => l.past.slice(-back, l.past.length - back + 1)).filter(speaks);
      if (of.length > 0) sets++;
      strings.push(...of.map(fallsByAge));
    }
    const present = record.instrumentId === forInstrumentId ? [] : own.filter(speaks);
    if (present.length > 0) sets++;
    strings.push(...present.map(fallsByAge));
  }
  if (sets === 0) return { prior: house, sets };
  const variance = house.slopeSpread ** 2;
  const within = (1 - BETWEEN) * variance;
  let precision = 1 / (BETWEEN * variance);
  let weighted = Math.log(house.slopeCents) * precision;
  for (const { slope, sigma } of slopesOf(strings, material)) {
    const sound = Math.max(slope, sigma);
    const w = 1 / (within + (sigma / sound) ** 2);
    precision += w;
    weighted += w * Math.log(sound);
  }
  const mean = weighted / precision;
  return {
    prior: { ...house, slopeCents: Math.exp(mean), slopeSpread: Math.sqrt(1 / precision + within) },
    sets,
  };
}
