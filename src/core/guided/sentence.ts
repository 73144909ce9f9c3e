import { inCents, signedCents } from '../music';
import type { PassStep } from './step';
import type { Figure, Approach } from './approach';

export interface SentenceState {
  step: PassStep;
  note: string;
  listening: boolean;
  toleranceCents: number;
  belowCents?: number | undefined;
  /** Where it stands now, or where it stood when it was last heard, not long ago. */
  figure: Figure | undefined;
  sounding: boolean;
  way: Approach;
  /** Asked and not yet answered. */
  question: string | undefined;
}

/** Where a string is said to stand: to a tenth near the line, whole cents far from it. */
export const standsWords = (c: number): string => signedCents(c, Math.abs(c) < 10 ? 1 : 0);

/**
 * What Enter says of a string that stands off its line.
 * @param cents from where it belongs
 * @param fromLine from the line that it is to be left at
 * @param leads it is to be left above its target on purpose
 */
export function offWords(cents: number, fromLine: number, leads: boolean): string {
  const may = !leads ? '' : fromLine < 0 ? ': it may go flat during the show' : ': it may sound sharp when you begin';
  return `It is at ${standsWords(cents)}${may}. Press Enter again to keep it as it is.`;
}

/** One short sentence: what to do now. */
export function sentenceFor(s: SentenceState): string {
  const { step, note, figure, toleranceCents, belowCents } = s;
  if (!s.listening) return 'Press Space to listen';
  if (s.question) return s.question;
  if (step.purpose === 'found') {
    if (s.sounding) return 'Let it ring';
    return step.leapCents === undefined ? `Pluck ${note}, touch no tuner` : leapt(note, step.leapCents);
  }
  if (!figure) return step.again ? `Pluck ${note}: go below, then up` : `Pluck ${note} and turn`;
  const { cents } = figure;
  if (step.again && cents > -toleranceCents && s.way.side !== 'below') return `Take ${note} below, then up`;
  const off = Math.round(Math.abs(cents));
  if (!atEdge(figure, toleranceCents, belowCents)) return 'Hold still, let it ring';
  return cents < 0 ? `Bring it up ${inCents(Math.max(1, off))}` : 'Go below, then up';
}

/** A reading that does not fit what came before it, named, and asked for again. */
const leapt = (note: string, leapCents: number) =>
  `Pluck ${note} again: it ${leapCents < 0 ? 'fell' : 'rose'} by ${Math.abs(leapCents).toFixed(0)} cents at once`;

/** The share of the tolerance that is taken by doubt, at least and at most. */
const LEAST_EDGE = 0.2;
const MOST_EDGE = 0.5;
/** A string that stands just inside the tolerance is still moved: it has to be inside with its doubt. */
export function atEdge({ cents, spread }: Figure, toleranceCents: number, belowCents = toleranceCents): boolean {
  const within = cents < 0 ? belowCents : toleranceCents;
  const doubt = Math.min(MOST_EDGE * within, Math.max(LEAST_EDGE * within, spread));
  return Math.abs(cents) > within - doubt;
}

/** A sentence stands at least so long, and another is meant for so long before it is said, s. */
const STANDS_S = 0.7;
const MEANT_S = 0.3;
/** A figure in a sentence is changed when it is off by more than this share, or these cents, or this share of the tolerance. */
const SHARE = 0.15;
const LEAST_CENTS = 1.6;
const OF_TOLERANCE = 0.5;

/** Keeps words calm: one sentence at a time, changed slowly unless the hand acts. */
export interface Sayer {
  /** @param acted the hand did something: a pluck, a key, a kept reading */
  say(sentence: string, nowS: number, acted: boolean): string;
}

/** Says where a string stands, without a word that flickers. */
export function createSayer(): Sayer {
  let shown = '';
  let sinceS = -Infinity;
  let next = '';
  let meantS = 0;
  return {
    say(sentence, nowS, acted) {
      if (sentence === shown) next = sentence;
      else if (sentence !== next) {
        next = sentence;
        meantS = nowS;
      }
      if (sentence !== shown && (shown === '' || acted || (nowS - sinceS >= STANDS_S && nowS - meantS >= MEANT_S))) {
        shown = sentence;
        sinceS = nowS;
      }
      return shown;
    },
  };
}

/** The figure that is shown, unless the new one differs enough to be said. */
export function calmFigure(shown: Figure | undefined, now: Figure, toleranceCents: number): Figure {
  const enough = Math.max(
    Math.min(LEAST_CENTS, OF_TOLERANCE * toleranceCents),
    SHARE * Math.abs(now.cents),
    now.spread,
  );
  return shown && Math.abs(shown.cents - now.cents) < enough ? { ...shown, tS: now.tS } : now;
}
