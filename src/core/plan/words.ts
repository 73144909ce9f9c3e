import { counted } from '../base';
import { WALK_FROM_CENTS, type PlannedWalk } from './before';

const named = (notes: readonly string[]) =>
  notes.length > 3 ? `${notes.slice(0, 3).join(', ')} and others` : notes.join(', ');

export function walkWords(strings: readonly PlannedWalk['strings'][number][]): string {
  const settling = strings.filter((s) => s.for === 'settle').map((s) => s.string.note);
  return settling.length > strings.length / 2
    ? `Bring up ${named(settling)} now: they settle until the last tuning.`
    : `Read the strings: it shows how ${named(strings.slice(0, 2).map((s) => s.string.note))} will fall during the show. Tune what is more than ${WALK_FROM_CENTS} cents off.`;
}

/** @param leads whether some are left above their targets */
export const lastWords = (leads: boolean): string =>
  `Play every string hard for a minute, then tune each from below.${leads ? ' Leave each at the figure given: it passes through pitch during the show.' : ''}`;

/**
 * @param saves string-minutes out of tolerance that it spares
 */
export function betweenWords(saves: number): string {
  const minutes = Math.max(1, Math.round(saves));
  return `In a pause, in this order. It saves about ${counted(minutes, 'minute')} of a string out of tune.`;
}
