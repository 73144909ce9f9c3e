import { HAND_TOLERANCE_CENTS } from '../hands';

/** What is heard while a job is done: strings that sound together. */
export interface JobSound {
  hz: readonly number[];
  /** How long, s. */
  lastsS: number;
}

/** One thing that can be done now, and the key that does it. */
export interface JobStep {
  id: string;
  words: string;
  key: string;
}

/** What the player knows at this moment: nothing that only the simulator knows. */
export interface JobSeen {
  /** What to do. */
  words: string;
  /** Under it, smaller; '' where there is nothing. */
  note: string;
  rows: readonly { name: string; figure: string; inHand: boolean }[];
}

/** How a job ended: a figure that is kept over time, and the truth in sentences. */
export interface JobEnd {
  value: number;
  right: boolean;
  words: readonly string[];
  /** String by string, from where it should be, cents; empty where that is not the question. */
  strings: readonly { name: string; cents: number }[];
}

/** The rules of a whole job, as pure steps: the same seed and the same steps end the same on every device. */
export interface JobRules<S> {
  title: string;
  /** What the kept figure counts. */
  unit: string;
  begin(seed: number): S;
  seen(state: S): JobSeen;
  steps(state: S): readonly JobStep[];
  /** @param id of one of its steps */
  act(state: S, id: string): S;
  sound?(state: S): JobSound | undefined;
  over(state: S): boolean;
  end(state: S): JobEnd;
}

/** Turning by keys: little and more. */
export const TURN_STEPS: readonly JobStep[] = [
  { id: 'up', words: 'Up', key: '↑' },
  { id: 'down', words: 'Down', key: '↓' },
  { id: 'up-more', words: 'Up, more', key: '⇧↑' },
  { id: 'down-more', words: 'Down, more', key: '⇧↓' },
];
/**
 * How far a turning step goes, cents; undefined where it is none.
 * @param little how far a little turn goes, cents
 * @param more how far a larger one goes, cents
 */
export const stepTurn = (id: string, little: number, more: number): number | undefined =>
  ({ up: little, down: -little, 'up-more': more, 'down-more': -more })[id];

/** A guitar's strings, the highest first. */
export const GUITAR = ['E4', 'B3', 'G3', 'D3', 'A2', 'E2'];

/** How many strings are in tune, by their cents; and in words. */
export const inTuneOf = (cents: readonly number[]): number =>
  cents.filter((c) => Math.abs(c) <= HAND_TOLERANCE_CENTS).length;
/** Where strings stand, in a line. @param cents from where each belongs */
export const standWords = (cents: readonly number[]): string =>
  `${inTuneOf(cents)} of ${cents.length} strings stand within ±${HAND_TOLERANCE_CENTS} cents.`;
/** 'once', '3 times'. */
export const times = (n: number): string => (n === 1 ? 'once' : `${n} times`);
