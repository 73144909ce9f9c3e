import { randomFrom } from '../simulate';
import { ratioOfCents } from '../music';
import { nextCents, type StaircaseAnswer } from './staircase';

export const EAR_EXERCISES = [
  'flat-sharp-low',
  'flat-sharp-middle',
  'flat-sharp-high',
  'against-a-tone',
  'fifth',
  'octave',
  'noisy-room',
  'which-pair',
  'nearer',
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
  /** What is asked: flat or sharp; which of two pairs is out of tune; which of two notes is nearer to the first one. */
  asks: 'way' | 'pair' | 'nearer';
}
export const EAR_RULES: Record<EarExercise, EarRule> = {
  'flat-sharp-low': { hz: [75, 125], ratio: 1, tone: false, noiseDb: null, asks: 'way' },
  'flat-sharp-middle': { hz: [180, 330], ratio: 1, tone: false, noiseDb: null, asks: 'way' },
  'flat-sharp-high': { hz: [500, 900], ratio: 1, tone: false, noiseDb: null, asks: 'way' },
  'against-a-tone': { hz: [180, 330], ratio: 1, tone: true, noiseDb: null, asks: 'way' },
  fifth: { hz: [180, 330], ratio: 3 / 2, tone: false, noiseDb: null, asks: 'way' },
  octave: { hz: [110, 220], ratio: 2, tone: false, noiseDb: null, asks: 'way' },
  'noisy-room': { hz: [180, 330], ratio: 1, tone: false, noiseDb: 18, asks: 'way' },
  'which-pair': { hz: [180, 330], ratio: 1, tone: false, noiseDb: null, asks: 'pair' },
  nearer: { hz: [180, 330], ratio: 1, tone: false, noiseDb: null, asks: 'nearer' },
};

/** What is played, note after note, and what is asked of it. */
export interface EarTrial {
  hz: readonly number[];
  /** How large the difference is, cents. */
  cents: number;
  /** The right one of the two answers: sharp, or the second. */
  up: boolean;
  seed: number;
}

/** Both answers to what is asked, the upper key's last. */
export const EAR_ANSWERS: Record<EarRule['asks'], readonly [string, string]> = {
  way: ['Flat', 'Sharp'],
  pair: ['The first', 'The second'],
  nearer: ['The first', 'The second'],
};
/** Where which of two is nearer, the near one is so far off, cents (house): flat or sharp alone does not tell. */
const NEAR_CENTS = 6;

/** The next trial of an ear exercise; the same for the same seed and the same answers. */
export function earTrial(exercise: EarExercise, seed: number, trials: readonly StaircaseAnswer[]): EarTrial {
  const { hz, ratio, asks } = EAR_RULES[exercise];
  const random = randomFrom(seed + 104729 * trials.length);
  const first = random.between(...hz);
  const up = random.uniform() < 0.5;
  const cents = nextCents(trials);
  const way = random.uniform() < 0.5 ? 1 : -1;
  const beside = (by: number) => first * ratio * ratioOfCents(by);
  const sounds = {
    way: () => [first, beside(up ? cents : -cents)],
    pair: () => (up ? [first, first, first, beside(way * cents)] : [first, beside(way * cents), first, first]),
    // One flat, one sharp: which is nearer is told by how far alone.
    nearer: () => {
      const [near, far] = [beside(way * NEAR_CENTS), beside(-way * (NEAR_CENTS + cents))];
      return up ? [first, far, near] : [first, near, far];
    },
  };
  return { hz: sounds[asks](), cents, up, seed: seed + trials.length };
}

/** An answer against the truth. */
export const answered = ({ cents, up }: EarTrial, saidUp: boolean): StaircaseAnswer => ({
  cents,
  right: saidUp === up,
});
