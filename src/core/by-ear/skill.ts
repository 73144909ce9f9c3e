import { mean, sampleStandardDeviation } from 'simple-statistics';
import type { Bench, ExerciseRecord, JudgementRecord } from '../log';

/** What one ear is worth at one interval. */
export interface EarSkill {
  interval: string;
  count: number;
  /** How far from beatless it stops on the whole, and how much it scatters about that, cents; scatter null before three. */
  biasCents: number;
  spreadCents: number | null;
}
const FEWEST = 3;

/** How far from the pure interval the two strings stood when the player said that they were right, cents. */
export const earError = ({
  cents,
  againstCents,
  expectCents,
}: Pick<JudgementRecord, 'cents' | 'againstCents' | 'expectCents'>): number => cents - againstCents + expectCents;

/** The player's ear by interval, from what was judged and then read. */
export function earSkill(judgements: readonly JudgementRecord[]): EarSkill[] {
  const named = new Map<string, number[]>();
  for (const j of judgements) {
    // An interval is one, whichever string lies above.
    const key = [...j.interval].sort((a, b) => b - a).join(':');
    named.set(key, [...(named.get(key) ?? []), earError(j)]);
  }
  return [...named].map(([interval, errors]) => ({
    interval,
    count: errors.length,
    biasCents: mean(errors),
    spreadCents: errors.length < FEWEST ? null : sampleStandardDeviation(errors),
  }));
}

/** Spread of a judgement by this ear over all intervals, cents; undefined before three. */
export function earSpread(judgements: readonly JudgementRecord[]): number | undefined {
  return judgements.length < FEWEST ? undefined : Math.sqrt(mean(judgements.map((j) => earError(j) ** 2)));
}

/** What an ear told in practice at an exercise, cents three times in four, as it last was; undefined where it was not practised. */
export const toldInPractice = (exercises: readonly ExerciseRecord[], exercise: string): number | undefined =>
  exercises.findLast((r) => r.practice === 'ear' && r.exercise === exercise)?.value;

/** A judgement that is right three times in four between flat and sharp scatters by so much less than that (normal quantile of .75). */
const QUARTILE = 0.674;
const PRACTISED = ['against-a-tone', 'fifth', 'octave', 'flat-sharp-middle'];

/** Spread of a judgement by this ear, cents: by its rounds; before three of them by what it told in practice; undefined before that. */
export function earWorth({
  judgements,
  exercises,
}: Pick<Bench, 'judgements' | 'exercises'>): { cents: number; by: 'rounds' | 'practice' } | undefined {
  const spread = earSpread(judgements);
  if (spread !== undefined) return { cents: spread, by: 'rounds' };
  const told = PRACTISED.flatMap((e) => toldInPractice(exercises, e) ?? []);
  return told.length === 0 ? undefined : { cents: mean(told) / QUARTILE, by: 'practice' };
}
