import { ageFromMs } from './hand-events';
import { groupBy, type InstrumentLife, type InstrumentRecord, type PastLife } from '../log';
import { telling } from './telling';
import { totalFallSeries } from './falls';
import type { Priors } from './fits';
import { SETTLING_PRIORS, type SettlingMaterial, type SettlingPrior } from '../settling';
import { SETTLES_AS } from '../strings';
import { slopesOf, type TrialReading } from '../trial';
import { MINUTE } from '../base';

/** What a string starts from: the house's estimate, or that made narrower by sets that went before. */
export interface LearnedPrior {
  prior: SettlingPrior;
  /** Earlier sets it rests on; 0 for the house's own. */
  sets: number;
}

const FEWEST_READINGS = 4;
/** A string says something of its kind when its record spans this, min. */
const SPAN_MIN = 120;
/** Share of the prior's variance that lies between kinds of string and players; the rest between like strings (house). */
const BETWEEN = 0.7;

/** Total falls of a string by its age. */
export const fallsByAge = (life: Pick<PastLife, 'readings' | 'strungMs'>): TrialReading[] => {
  const start = ageFromMs(life);
  if (start === undefined) return [];
  const told = telling(life.readings, start, []);
  return totalFallSeries(told).map((fall, i) => {
    const { atMs, tempC } = told[i]!;
    return { t: (atMs - start) / MINUTE, fall, tempC };
  });
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

/** So many of the newest sets teach: more hardly narrow what is expected, and each costs its whole record (house). */
const MOST_SETS = 12;
/** Of a long record so many readings, spread over it, teach a slope. */
const MOST_READINGS = 24;

/** One set that was on an instrument, or is: its strings of a material. */
export interface TaughtSet {
  instrumentId: string;
  material: SettlingMaterial;
  present: boolean;
  strungMs: number;
  lives: Pick<PastLife, 'readings' | 'strungMs'>[];
}

/** Every n-th reading, the first and the last among them. */
function thinned<T>(list: readonly T[]): T[] {
  const n = Math.min(MOST_READINGS, list.length);
  return Array.from({ length: n }, (_, i) => list[Math.round((i * (list.length - 1)) / Math.max(1, n - 1))]!);
}

/** The sets of one instrument that teach something. */
export function setsTaughtBy({ record: { instrumentId }, strings }: InstrumentLife): TaughtSet[] {
  const set = (material: SettlingMaterial, present: boolean, all: TaughtSet['lives']): TaughtSet[] => {
    const lives = all.filter(speaks);
    const strungMs = Math.max(...lives.map((l) => l.strungMs ?? 0));
    return lives.length > 0 ? [{ instrumentId, material, present, strungMs, lives }] : [];
  };
  return [...groupBy(strings, (l) => SETTLES_AS[l.plan.material])].flatMap(([material, own]) => {
    const generations = Math.max(0, ...own.map((l) => l.past.length));
    const past = Array.from({ length: generations }, (_, i) =>
      set(
        material as SettlingMaterial,
        false,
        own.flatMap((l) => l.past.slice(-1 - i, l.past.length - i)),
      ),
    );
    return [...past.flat(), ...set(material as SettlingMaterial, true, own)];
  });
}

/** Of each material the newest sets, as many as teach. */
export const newestSets = (sets: readonly TaughtSet[]): TaughtSet[] =>
  [...groupBy([...sets], (s) => s.material).values()].flatMap((own) =>
    own.sort((a, b) => b.strungMs - a.strungMs).slice(0, MOST_SETS),
  );

/**
 * The prior of a material's slope after the sets that were, for each instrument: ln slope normal, its mean and spread by precision
 * weighting (normal model with known variances; Gelman et al., Bayesian Data Analysis). An instrument's present strings are left
 * out of its own: they are what the prior is for.
 */
export function learnedPriors(
  taughtBy: readonly TaughtSet[],
  material: SettlingMaterial,
): (forInstrumentId: string) => LearnedPrior {
  const house = SETTLING_PRIORS[material];
  const sets = newestSets(taughtBy)
    .filter((s) => s.material === material)
    .map((s) => ({ ...s, strings: s.lives.map((l) => thinned(fallsByAge(l))) }));
  const slopes =
    sets.length > 0
      ? slopesOf(
          sets.flatMap((s) => s.strings),
          material,
        )
      : [];
  const variance = house.slopeSpread ** 2;
  const within = (1 - BETWEEN) * variance;
  let at = 0;
  const taught = sets.map((set) => {
    let precision = 0;
    let weighted = 0;
    for (const { slope, sigma } of slopes.slice(at, (at += set.strings.length))) {
      const sound = Math.max(slope, sigma);
      const w = 1 / (within + (sigma / sound) ** 2);
      precision += w;
      weighted += w * Math.log(sound);
    }
    return { ...set, precision, weighted };
  });
  return (forInstrumentId) => {
    const others = taught.filter((s) => !(s.present && s.instrumentId === forInstrumentId));
    if (others.length === 0) return { prior: house, sets: 0 };
    const precision = others.reduce((sum, s) => sum + s.precision, 1 / (BETWEEN * variance));
    const weighted = others.reduce((sum, s) => sum + s.weighted, Math.log(house.slopeCents) / (BETWEEN * variance));
    return {
      prior: {
        ...house,
        slopeCents: Math.exp(weighted / precision),
        slopeSpread: Math.sqrt(1 / precision + within),
      },
      sets: others.length,
    };
  };
}

/** What an instrument's strings start from, and how many earlier sets that rests on. */
export interface Learned {
  priors: Priors;
  sets: number;
}

/** What every instrument has learned of the sets before its own, by instrument. */
export function learnedOf(
  instruments: readonly InstrumentRecord[],
  sets: readonly TaughtSet[],
): Record<string, Learned> {
  const known = new Map<SettlingMaterial, ReturnType<typeof learnedPriors>>();
  return Object.fromEntries(
    instruments.map(({ instrumentId, strings }) => {
      const learned: Learned = { priors: {}, sets: 0 };
      for (const material of new Set(strings.map((s) => SETTLES_AS[s.material]))) {
        const of = known.get(material) ?? learnedPriors(sets, material);
        known.set(material, of);
        const { prior, sets: count } = of(instrumentId);
        learned.priors[material] = prior;
        learned.sets = Math.max(learned.sets, count);
      }
      return [instrumentId, learned];
    }),
  );
}
