import type { OldTone } from '../second-string/old-tones';

/** One partial of a reading: its number, frequency in Hz and standard error in Hz. */
export interface Partial {
  n: number;
  frequencyHz: number;
  sigmaHz: number;
}

export type RefusalReason =
  'too-quiet' | 'too-short' | 'unsteady' | 'two-strings' | 'clipped' | 'other-string' | 'no-pitch' | 'hum' | 'gap';

/** One measured pluck. Times are seconds from the first sample handed in. */
export interface Reading {
  ok: true;
  /** The first partial of the settled note, f0 sqrt(1 + B), Hz. */
  frequencyHz: number;
  /** From the target; positive is sharp. */
  cents: number;
  /** Standard error of `cents`. */
  sigmaCents: number;
  /** Stiffness coefficient B of f_n = n f0 sqrt(1 + B n^2); null when fewer than three partials carry it. */
  inharmonicity: number | null;
  snrDb: number;
  fromS: number;
  toS: number;
  partials: Partial[];
  /** How much sharper the note started than it settled (a hard pluck), cents. */
  glideCents: number;
  /** How soon that is over: time constant, s. */
  sharpTauS: number;
  /** How far the pitch went from the first third of the stretch to the last beside that, cents: a hand on the tuner. */
  driftCents: number;
}

export interface Refusal {
  ok: false;
  reason: RefusalReason;
  /** What to do, in a short sentence. */
  message: string;
}

export type MeasureOutcome = Reading | Refusal;

/** What the estimator is told beside the samples. */
export interface MeasureOptions {
  targetHz: number;
  /** The section is already free of attack and silence (a steady note under the hand): take all of it. */
  sustained?: boolean;
  /** What is left of a sharp start where such a section begins, from the note's own reading. */
  sharp?: { cents: number; tauS: number };
  /** Where the pitch is looked for, cents around the target. */
  lowCents?: number;
  highCents?: number;
  /** Tones that sounded before and do not belong to the note. */
  old?: readonly OldTone[];
  /** Where the note begins, s, when it is known; what sounds before it is not the note. */
  onsetS?: number;
}

/** A string of the instrument as the listener needs it. */
export interface StringPlace {
  id: string;
  /** As the user calls it: 'E4'. */
  name: string;
  targetHz: number;
  /** Where it was last read, Hz; undefined when it never was. */
  lastHz?: number;
}
