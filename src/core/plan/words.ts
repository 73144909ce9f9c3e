import { counted } from '../base';
import { signedCents } from '../music';
import { READY } from '../status';
import type { PlanSession, PlanSum, ShowOutlook } from './types';
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

/** A plan in figures. */
export const sumWords = ({ before, inShow, minutes, out }: PlanSum): string =>
  `${counted(before, 'check')} before the show, ${inShow === 0 ? 'none' : inShow} during it, ${minutes} min of work. Out of tune ${(100 * out).toFixed(1)} % of the time`;
/** The same in three short lines. */
export const sumLines = ({ before, inShow, minutes, out }: PlanSum): string[] => [
  `${before} + ${inShow} checks`,
  `${minutes} min`,
  `${(100 * out).toFixed(1)} % out`,
];

const whole = (cents: number): string => signedCents(cents, 0);
/** Where a string will stand that falls so far. @param fall cents, flat positive */
export const endWords = ({ q05, q50, q95 }: { q05: number; q50: number; q95: number }): string =>
  `${whole(-q50)} (${whole(-q95)} to ${whole(-q05)}) cents`;
export const holdsWords = (chance: number): string => `holds ${(100 * chance).toFixed(0)} %`;

/** How many strings of an instrument hold to the end, and the weakest; undefined where none is forecast. */
export function outlookWords(
  own: readonly Pick<ShowOutlook, 'stringId' | 'chance' | 'fall'>[],
  noteOf: (stringId: string) => string,
): { holds: string; weakest: string } | undefined {
  const known = own.flatMap(({ chance, fall, stringId }) =>
    chance === null || !fall ? [] : [{ chance, fall, stringId }],
  );
  const [first] = known;
  if (!first) return undefined;
  const worst = known.reduce((a, b) => (b.chance < a.chance ? b : a), first);
  return {
    holds: `${known.filter((o) => o.chance >= READY).length} of ${own.length} hold; ${noteOf(worst.stringId)} at the end`,
    weakest: endWords(worst.fall),
  };
}

/** How long a show is, and how closely it is to stay in tune. */
export const showWords = ({ minutes, toleranceCents }: Pick<PlanSession, 'minutes' | 'toleranceCents'>): string =>
  `${minutes} min within ±${toleranceCents} cents`;
