import { WALK_FROM_CENTS, type Walk } from './before';

const named = (notes: readonly string[]) =>
  notes.length > 3 ? `${notes.slice(0, 3).join(', ')} and others` : notes.join(', ');

export function walkWords(strings: readonly Walk['strings'][number][]): string {
  const settling = strings.filter((s) => s.for === 'settle').map((s) => s.string.note);
  return settling.length > strings.length / 2
    ? `Makes ${named(settling)} settle: what is brought up now has come to rest by the last tuning.`
    : `Tells how ${named(strings.slice(0, 2).map((s) => s.string.note))} will fall in the show. Bring up what is more than ${WALK_FROM_CENTS} off.`;
}

/** @param leads whether some are left above their targets */
export const lastWords = (leads: boolean): string =>
  `Full bends, or the bar down and up, on every string; then retune each from below.${leads ? ' Leave each at its own figure: it passes through pitch in the show.' : ''}`;

export const betweenWords = (saves: number): string =>
  `Between pieces, in this order: it saves about ${Math.max(1, Math.round(saves))} string-minutes out of tolerance.`;
