import { randomFrom } from '../simulate';
import { ratioOfCents } from '../music';
import { nextCents, type Trial } from './staircase';

export const EAR_EXERCISES = [
  'flat-sharp-low',
  'flat-sharp-middle',
  'flat-sharp-high',
  'against-a-tone',
  'fifth',
  'octave',
  'noisy-room',
] as const;
export type EarExercise = (typeof EAR_EXERCISES)[number];

interface EarRule {
  /** Frequencies of the first note, Hz: between these. */
  hz: readonly [number, number];
  /** The second note over the first when it is in tune. */
  ratio: number;
  /** The first note is a tone without a string's sound. */
  tone: boolean;
  /** Noise of a room, dB under the note; none where it is quiet. */
  noiseDb: number | null;
}
export const EAR_RULES: Record<EarExercise, EarRule> = {
  'flat-sharp-low': { hz: [75, 125], ratio: 1, tone: false, noiseDb: null },
  'flat-sharp-middle': { hz: [180, 330], ratio: 1, tone: false, noiseDb: null },
  'flat-sharp-high': { hz: [500, 900], ratio: 1, tone: false, noiseDb: null },
  'against-a-tone': { hz: [180, 330], ratio: 1, tone: true, noiseDb: null },
  fifth: { hz: [180, 330], ratio: 3 / 2, tone: false, noiseDb: null },
  octave: { hz: [110, 220], ratio: 2, tone: false, noiseDb: null },
  'noisy-room': { hz: [180, 330], ratio: 1, tone: false, noiseDb: 18 },
};

/** What is played: a first note, and a second one that is flat or sharp by so much. */
export interface EarTrial {
  firstHz: number;
  secondHz: number;
  /** Flat negative. */
  cents: number;
  seed: number;
}

/** The next trial of an ear exercise; the same for the same seed and the same answers. */
export function earTrial(exercise: EarExercise, seed: number, trials: readonly Trial[]): EarTrial {
  const { hz, ratio } = EAR_RULES[exercise];
  const random = randomFrom(seed + 104729 * trials.length);
  const firstHz = random.between(...hz);
  const sharp = random.uniform() < 0.5;
  const cents = (sharp ? 1 : -1) * nextCents(trials);
  return { firstHz, secondHz: firstHz * ratio * ratioOfCents(cents), cents, seed: seed + trials.length };
}

/** An answer against the truth. */
export const answered = ({ cents }: EarTrial, sharp: boolean): Trial => ({
  cents: Math.abs(cents),
  right: sharp === cents > 0,
});
