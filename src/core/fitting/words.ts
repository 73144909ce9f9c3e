import { signedCents } from '../music';

export const roundsNote = (count: number, school: string) => `${count} rounds, ${school.toLowerCase()}`;
export const droppedWords = (dropCents: number, advice: string) => `Dropped ${dropCents.toFixed(1)} cents. ${advice}`;
export const leftWords = (note: string, cents: number, above: boolean) =>
  `${note}: ${signedCents(cents)} cents, saved as left.${above ? ' It came from above and may fall. Go below and up, or go on.' : ''}`;
/** It was turned up between the stretch and its reading. */
export const NO_DROP =
  'It was turned before it was read: this round has no drop. Stretch it once more, and read it first.';
