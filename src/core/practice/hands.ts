import { randomFrom, type Random } from '../simulate';
import { drawTuner, turned, type TunerState, type TunerToHand } from './tuners';

export const HAND_EXERCISES = [
  'from-slack',
  'from-sharp',
  'little-turns',
  'a-peg',
  'a-pin',
  'fine-tuner',
  'falling',
  'six',
] as const;
export type HandExercise = (typeof HAND_EXERCISES)[number];

interface Rule {
  tuner: TunerToHand;
  /** Cents from the target where it begins: between these. */
  from: readonly [number, number];
  strings: number;
  /** Cents a minute that it falls at first; a new string. */
  falls: number;
  /** Seconds that it may take; none where nobody hurries. */
  withinS: number | null;
}
const RULES: Record<HandExercise, Rule> = {
  'from-slack': { tuner: 'geared', from: [-900, -500], strings: 1, falls: 0, withinS: null },
  'from-sharp': { tuner: 'geared', from: [12, 45], strings: 1, falls: 0, withinS: null },
  'little-turns': { tuner: 'geared', from: [-14, -5], strings: 1, falls: 0, withinS: null },
  'a-peg': { tuner: 'peg', from: [-180, -60], strings: 1, falls: 0, withinS: null },
  'a-pin': { tuner: 'pin', from: [-90, -30], strings: 1, falls: 0, withinS: null },
  'fine-tuner': { tuner: 'fine', from: [-30, 30], strings: 1, falls: 0, withinS: null },
  falling: { tuner: 'geared', from: [-60, -20], strings: 1, falls: 14, withinS: 60 },
  six: { tuner: 'geared', from: [-60, -8], strings: 6, falls: 0, withinS: 90 },
};

/** Within this of its target it is in tune, cents. */
export const HAND_TOLERANCE_CENTS = 3;
/** Pull at the target, share of breaking: the same on all (house). Pull goes with the square of pitch. */
const LOAD = 0.55;
/** A fall slows down so, s. */
const CALMS_S = 25;

export interface PathPoint {
  tS: number;
  cents: number;
}
/** One string under the hand: its tuner, and where it stood from the beginning on. */
export interface HandString {
  tuner: TunerState;
  path: PathPoint[];
  broke: boolean;
}
export interface HandRun {
  exercise: HandExercise;
  seed: number;
  strings: HandString[];
  /** The string in hand. */
  at: number;
  doneS: number | undefined;
}

/** An exercise by its seed: the same on every device. */
export function beginHands(exercise: HandExercise, seed: number): HandRun {
  const { tuner, from, strings } = RULES[exercise];
  const random = randomFrom(seed);
  return {
    exercise,
    seed,
    at: 0,
    doneS: undefined,
    strings: Array.from({ length: strings }, () => ({
      tuner: drawTuner(tuner, random),
      path: [{ tS: 0, cents: random.between(...from) }],
      broke: false,
    })),
  };
}

/** What the hand does: it turns the string in hand, goes to another one, or says that it is done. */
export type HandAct = { do: 'turn'; degrees: number; pushed: boolean } | { do: 'string'; at: number } | { do: 'done' };

const loadAt = (cents: number): number => LOAD * 2 ** (cents / 600);
const last = <T>(list: readonly T[]): T => list[list.length - 1]!;

/** Where a string stands: one that falls goes on without a hand. */
export function handStandsAt({ exercise }: Pick<HandRun, 'exercise'>, { path }: HandString, tS: number): number {
  const { tS: then, cents } = last(path);
  const { falls } = RULES[exercise];
  return cents - (falls / 60) * CALMS_S * (Math.exp(-then / CALMS_S) - Math.exp(-tS / CALMS_S));
}

/** The exercise after an act. @param tS since it began */
export function actHands(run: HandRun, act: HandAct, tS: number): HandRun {
  if (run.doneS !== undefined) return run;
  if (act.do === 'done') return { ...run, doneS: tS };
  if (act.do === 'string') return { ...run, at: Math.max(0, Math.min(run.strings.length - 1, act.at)) };
  // The same turns at the same steps give the same string, on every device.
  const random: Random = randomFrom(run.seed + 7919 * run.strings.reduce((n, s) => n + s.path.length, 0));
  const strings = run.strings.map((s, i): HandString => {
    if (i !== run.at || s.broke) return s;
    const [tuner, cents] = turned(s.tuner, act.degrees, act.pushed, random);
    const point = { tS, cents: handStandsAt(run, s, tS) + cents };
    return { tuner, path: [...s.path, point], broke: loadAt(point.cents) >= 1 };
  });
  return { ...run, strings };
}

/** What a hand did, in figures. */
export interface HandReport {
  /** From the target, the furthest string, cents. */
  finalCents: number;
  inTune: number;
  of: number;
  /** How often a string was taken over its target by more than is borne, and how far at most, cents. */
  overshoots: number;
  furthestOver: number;
  /** Strings whose last move came from below. */
  fromBelow: number;
  timeS: number;
  late: boolean;
  /** Share of its breaking load that the string reached at most. */
  mostLoad: number;
  broke: boolean;
}

/** The truth afterwards. @param endS when it ended */
export function reportHands(run: HandRun, endS: number): HandReport {
  const ends = run.strings.map((s) => handStandsAt(run, s, endS));
  const cents = run.strings.flatMap((s) => s.path.map((p) => p.cents));
  const over = run.strings.map(
    ({ path }) =>
      path.slice(1).filter((p, k) => p.cents > HAND_TOLERANCE_CENTS && path[k]!.cents <= HAND_TOLERANCE_CENTS).length,
  );
  // Where an exercise begins sharp, its beginning is no overshoot.
  const reached = run.strings.flatMap((s) => s.path.slice(1).map((p) => p.cents));
  const moved = run.strings.filter((s) => s.path.length > 1);
  const { withinS } = RULES[run.exercise];
  return {
    finalCents: ends.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0),
    inTune: ends.filter((c) => Math.abs(c) <= HAND_TOLERANCE_CENTS).length,
    of: ends.length,
    overshoots: over.reduce((a, b) => a + b, 0),
    furthestOver: Math.max(0, ...reached),
    fromBelow: moved.filter(({ path }) => last(path).cents > path[path.length - 2]!.cents).length,
    timeS: endS,
    late: withinS !== null && endS > withinS,
    mostLoad: Math.max(...cents.map(loadAt)),
    broke: run.strings.some((s) => s.broke),
  };
}
/** In what time it is to be done, s; null where that does not count. */
export const withinS = (exercise: HandExercise): number | null => RULES[exercise].withinS;
