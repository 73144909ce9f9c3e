import { type Zone, MINUTE } from '../../core/base';
import type { PlanItem, VisitPurpose } from '../../core/plan';
import { dueTime, signed } from './format';
import type { StringStatus } from '../../core/status';

/** What a visit is for, as it is said where it is made. */
export const VISIT_WORDS: Record<VisitPurpose, string> = {
  settle: 'check it, so that it settles',
  learn: 'check it, to see how it falls',
  'last-tuning': 'the last tuning',
  retune: 'retune it',
};

/** What a string is left at above its target, beside its note: '' where it is left at pitch. */
export const leadWords = (cents = 0): string => (cents === 0 ? '' : ` ${signed(cents)}`);

const SOON_MS = 5 * MINUTE;

/** What the plan of a show says of one string: bring it up only where that does something. */
export function stringVisitWords(
  status: Pick<StringStatus, 'off' | 'cents'>,
  next: PlanItem | undefined,
  nowMs: number,
  zone: Zone,
): string {
  const soon = next !== undefined && next.atMs <= nowMs + SOON_MS;
  if (soon) return status.off && (status.cents ?? 0) < 0 ? 'bring it up now' : 'check it now';
  return next ? `next check ${dueTime(next.atMs, nowMs, zone)}` : 'leave it, it holds';
}
