import { cents } from '../music';
import type { Reading, RefusalReason, StringPlace } from '../pitch';
import type { FigurePlace, NamedPlace } from './identify';
import type { TunerAdvice, TunerKnown, TunerLearned } from './turning';
import type { Arrival, Figure } from './approach';

/** The one thing to sound next. */
export interface PassStep {
  stringId: string;
  purpose: 'found' | 'left';
  /** The second pluck that a surprising reading asks for: by how much the string moved at once, cents. */
  leapCents?: number;
  /** It was left from above and may fall: offered once more, to be finished from below. */
  again?: true;
}

/** The step in hand, with what is known of the strings. */
export interface GuidedStep {
  step: PassStep;
  named: NamedPlace;
  others: StringPlace[];
  /**
   * Where the string belongs, Hz: the zero of every cents figure that a person sees or types. It is brought to
   * named.targetHz, another line where it is left above on purpose, under it, or at a stop.
   */
  belongsHz: number;
  /** Where it is expected to sound now, Hz: by this it is known again, and a figure far from it is asked about. */
  expectedHz: number;
  toleranceCents: number;
  /** A string that is to be left above its target is left no further below that line than this, cents. */
  belowCents?: number;
  /** The player says that it is the named string. */
  insist?: boolean;
  /** Only looked at, while a hand pulls it sharp: nothing is read, asked or said. */
  watched?: true;
  /** Where it was found before this step, cents; null when it was not. */
  foundCents: number | null;
  /** It was left so already: nobody has turned it since. */
  leftAlready?: boolean;
  /** The tuner that brings it up. */
  tuner?: TunerKnown;
}

/** How far the line that a string is brought to lies from where it belongs, cents. */
export const lineCentsOf = ({ named, belongsHz }: Pick<GuidedStep, 'named' | 'belongsHz'>): number =>
  named.targetHz === belongsHz ? 0 : cents(named.targetHz, belongsHz);

/** The string of a step, as a figure of it is read. */
export const figurePlaceOf = ({ step, named, belongsHz, expectedHz, insist = false }: GuidedStep): FigurePlace => ({
  name: named.name,
  belongsHz,
  expectedHz,
  known: step.purpose === 'found' && named.lastHz !== undefined,
  sure: insist,
});

/** What the rules say of what was heard. */
export type Verdict =
  /** `turned`: it was to be left alone, and was turned up before it was read. */
  | { kind: 'keep'; reading: Reading; arrival: Arrival | undefined; learned?: TunerLearned; turned?: true }
  | { kind: 'refuse'; reason: RefusalReason | 'off' | 'uncertain' | 'nothing'; message: string; hearingId?: string }
  | { kind: 'ask'; cents: number; message: string; hearingId?: string };

/** What the player sees now. */
export interface GuideView {
  sentence: string;
  /** Robust, null when nothing is heard well enough. */
  figure: Figure | null;
  /** Where it was last heard well, if not now. */
  faded: Figure | null;
  /** While the string is brought up. */
  tuner: TunerAdvice | null;
  /** A hand is at the tuner: the string is to be brought up, or what sounds has risen. */
  turning: boolean;
}

/** Is it the same thing that is asked for? */
export const isSameStep = (a: GuidedStep | undefined, b: GuidedStep | undefined): boolean =>
  a !== undefined &&
  b !== undefined &&
  a.named.id === b.named.id &&
  a.named.targetHz === b.named.targetHz &&
  a.belongsHz === b.belongsHz &&
  a.step.purpose === b.step.purpose &&
  a.step.again === b.step.again &&
  a.step.leapCents === b.step.leapCents;
