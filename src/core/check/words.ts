import { plusMinus, signedCents } from '../music';
import type { ReadingRecord } from '../log';

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
export function checkKeptWords({ note, reading, leadCents, off }: KeptFacts): string {
  const as = reading.purpose === 'as-found' ? 'as found' : off ? 'as it is' : 'as left';
  const meant = leadCents === 0 ? '' : ` It should be left at ${signedCents(leadCents)}.`;
  const sharp = reading.glideCents ?? 0;
  const hard = sharp >= HARD_CENTS ? ` Plucked hard: ${sharp.toFixed(0)} cents sharp at first.` : '';
  const { cents, sigmaCents } = reading;
  return `${note}: ${signedCents(cents)} ${plusMinus(sigmaCents)} cents, saved ${as}.${meant}${hard}`;
}

export const fromAboveWords = (note: string) =>
  `${note} is saved, but it came from above and may fall. Finish it from below, or press N to go on.`;
export const outsideWords = (note: string, cents: number) =>
  `${note} is at ${signedCents(cents)} cents. Press Enter to start a check and save readings.`;
export const insistWords = (note: string) => `Taken as ${note}. Pluck it again.`;
export const NOTHING_TO_TAKE_BACK = 'There is no reading in this check to take back.';
export const TAKEN_BACK = 'The last reading is taken back. It stays in the history, marked.';

/** A chance in words, with its figure. */
export function chanceWords(chance: number): string {
  const percent = `${Math.round(100 * chance)} %`;
  if (chance >= 0.9) return `very likely to hold (${percent})`;
  if (chance >= 0.7) return `likely to hold (${percent})`;
  if (chance >= 0.4) return `may hold (${percent})`;
  if (chance >= 0.1) return `unlikely to hold (${percent})`;
  return `will not hold (${percent})`;
}

export const playedWords = (minutes: number): string =>
  `Noted: played for ${minutes} min. Read the strings when they have cooled down.`;

/** What a check that is done has left; '' where nothing. */
export const leftUndoneWords = ({ unread, off }: { unread: readonly string[]; off: readonly string[] }): string =>
  [
    unread.length > 0 ? `Not read: ${unread.join(', ')}.` : '',
    off.length > 0 ? `Read and not brought up: ${off.join(', ')}.` : '',
  ]
    .filter(Boolean)
    .join(' ');
