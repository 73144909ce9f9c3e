import type { StringLife } from '../log';
import { counted } from '../base';
import { signedCents } from '../music';

/** What became of a string that was fitted: its drops, cents, and where it was left. */
export function fittedWords({ rounds, readings }: Pick<StringLife, 'rounds' | 'readings'>): string {
  const last = readings.at(-1);
  const drops = rounds.map((r) => r.dropCents.toFixed(0)).join(', ');
  const dropped = rounds.length > 0 ? `dropped ${drops} cents in ${counted(rounds.length, 'round')}` : 'not stretched';
  return `${dropped}${last ? `, left at ${signedCents(last.cents)}` : ''}`;
}
/** The drops of the rounds so far, cents. */
export const dropsWords = (drops: readonly number[]): string =>
  `Drops so far: ${drops.map((d) => d.toFixed(0)).join(', ') || 'none'} cents`;
/** When rounds are enough. @param cents smaller than this a drop is small */
export const enoughWords = (cents: number): string => `enough: two drops under ${cents} cents`;

export const roundsNote = (count: number, school: string) => `${count} rounds, ${school.toLowerCase()}`;
export const droppedWords = (dropCents: number, advice: string) => `Dropped ${dropCents.toFixed(1)} cents. ${advice}`;
export const leftWords = (note: string, cents: number, above: boolean) =>
  `${note}: ${signedCents(cents)} cents, saved as left.${above ? ' It came from above and may fall. Go below and up, or go on.' : ''}`;
/** It was turned up between the stretch and its reading. */
export const NO_DROP =
  'It was turned before it was read: this round has no drop. Stretch it once more, and read it first.';
