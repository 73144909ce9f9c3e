import { signedCents } from '../music';
import type { ReadingRecord } from '../records';

/** A start so much sharper than the note is told, cents. */
const HARD_CENTS = 4;

export interface KeptFacts {
  note: string;
  reading: Pick<ReadingRecord, 'purpose' | 'cents' | 'sigmaCents' | 'glideCents'>;
  /** How far above its target it was to be left, cents. */
  leadCents: number;
  /** It stands outside what is allowed. */
  off: boolean;
}

/** What was kept of a string. */
export function keptWords({ note, reading, leadCents, off }: KeptFacts): string {
  const as = reading.purpose === 'as-found' ? 'as found' : off ? 'kept as it is,' : 'as left';
  const meant = leadCents === 0 ? '' : ` It was to be left at ${signedCents(leadCents)}.`;
  const sharp = reading.glideCents ?? 0;
  const hard = sharp >= HARD_CENTS ? ` Plucked hard: ${sharp.toFixed(0)} cents sharp at first.` : '';
  return `${note} ${as} ${signedCents(reading.cents)} ±${reading.sigmaCents.toFixed(1)} kept.${meant}${hard}`;
}

export const fromAboveWords = (note: string) =>
  `${note} kept, but it came from above and may fall. Finish it from below, or press N to go on.`;
export const outsideWords = (note: string, cents: number) =>
  `${note} stands at ${signedCents(cents)}. Press Enter to start a check pass and keep readings.`;
export const insistWords = (note: string) => `Taken as ${note}: pluck it again.`;
export const NOTHING_TO_TAKE_BACK = 'Nothing was kept in this pass to take back.';
export const TAKEN_BACK = 'The last reading is taken back; it stays in the log, marked so.';
