import { clockTime, dueTime, dueWords } from '../base';
import type { StringLife } from '../log';
import type { StringStatus } from '../status';
import type { SayAsked } from './asked';
import { SOON_MS } from './next';
import type { Statement } from './statement';

/** What is to be done with one string. */
export type StringNext = 'read' | 'find-out' | 'bring-up' | 'go-below' | 'check' | 'leave' | 'read-again';

interface Next {
  value: StringNext;
  atMs?: number;
  brief: string;
}

/** What a show's plan, or without one its own law, asks of a string; undefined while the plan is being worked out. */
function nextOf(stringId: string, status: StringStatus, { walks, nowMs, zone }: SayAsked): Next | undefined {
  const { state, slippedMs, cents, off, nextCheckMs } = status;
  if (state === 'unread') return { value: 'read', brief: 'pluck it once' };
  if (slippedMs !== null) return { value: 'find-out', brief: `at ${clockTime(slippedMs, zone)}, read twice` };
  if (walks === 'not yet') return undefined;
  const isFlat = off && (cents ?? 0) < 0;
  if (walks !== 'in no show') {
    const walk = walks.find((i) => i.stringIds.includes(stringId));
    // Brought up only where that does something.
    if (!walk) return { value: 'leave', brief: state === 'holding' ? 'leave it, it holds' : 'leave it as it is' };
    const { atMs } = walk;
    if (atMs > nowMs + SOON_MS) return { value: 'check', atMs, brief: `next check ${dueTime(atMs, nowMs, zone)}` };
    return isFlat ? { value: 'bring-up', brief: 'bring it up now' } : { value: 'check', brief: 'check it now' };
  }
  if (nextCheckMs === null) return { value: 'read-again', brief: 'too few readings yet' };
  if (off)
    return isFlat ? { value: 'bring-up', brief: 'bring it up now' } : { value: 'go-below', brief: 'go below, then up' };
  const due = dueTime(nextCheckMs, nowMs, zone);
  const check = { value: 'check' as const, atMs: nextCheckMs };
  if (due.startsWith('now')) return { ...check, brief: due };
  return {
    ...check,
    brief: state === 'holding' ? `holds until ${due}` : `check ${dueWords(nextCheckMs, nowMs, zone)}`,
  };
}

/** What is to be done with one string, and when. */
export function stringNext({ plan }: StringLife, status: StringStatus, asked: SayAsked): Statement[] {
  const next = nextOf(plan.stringId, status, asked);
  return next ? [{ kind: 'string-next', ...next, text: `${plan.note}: ${next.brief}.` }] : [];
}
