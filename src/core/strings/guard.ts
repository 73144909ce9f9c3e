import type { StringLoad } from './load';
import { clamp } from '../base';
import { ofBreaking, REFUSE_SHARE, WARN_SHARE } from './breaking';

/** What the pitch guard calls out while a string is brought up. */
export interface GuardCall {
  /** 'stop': let it down now. 'near': it goes on, but with care. */
  level: 'near' | 'stop';
  reason: 'share' | 'past-target';
  message: string;
}

/** A string is never guided further than this above its target, cents; nor further than a third of its headroom (house rules). */
const FURTHEST_CENTS = 100;
const HEADROOM_SHARE = 1 / 3;

/**
 * How far above its target a string may be taken before the guard says stop, cents: 100, or a third of its headroom where
 * that is known and less.
 */
export function guardAllowanceCents(load: StringLoad | undefined): number {
  const headroom = load?.headroomSemitones;
  return headroom === null || headroom === undefined
    ? FURTHEST_CENTS
    : clamp(100 * headroom * HEADROOM_SHARE, 0, FURTHEST_CENTS);
}

/**
 * The pitch guard: tension goes with the square of the pitch (Taylor's law), so the share of breaking at the pitch heard
 * follows from the share at the target.
 * @param cents what is heard, from the target
 * @param load the string's load at its target; undefined where its physics is unknown
 * @param note as the user calls the string, 'E4'
 * @param pulled a hand pulls it sharp: then only its load counts, and it is let go before the string is near its end
 */
export function pitchGuard(
  cents: number,
  load: StringLoad | undefined,
  note: string,
  pulled = false,
): GuardCall | undefined {
  const share = load?.shareOfBreaking;
  const at = share === null || share === undefined ? undefined : share * Math.pow(2, cents / 600);
  const pulls = at === undefined ? '' : ofBreaking(at);
  if (pulled)
    return at !== undefined && at > WARN_SHARE
      ? { level: 'stop', reason: 'share', message: `Let go: ${note} pulls ${pulls}.` }
      : undefined;
  if (at !== undefined && at > REFUSE_SHARE)
    return {
      level: 'stop',
      reason: 'share',
      message: `Stop, let it down: ${note} pulls ${pulls}.`,
    };
  const past = Math.round(cents);
  if (cents > guardAllowanceCents(load))
    return {
      level: 'stop',
      reason: 'past-target',
      message: `Stop, let it down: ${past} cents above ${note}. Is it the right string and the right note?`,
    };
  if (at !== undefined && at > WARN_SHARE)
    return {
      level: 'near',
      reason: 'share',
      message: `${note} pulls ${pulls}: turn little, keep your face out of its plane.`,
    };
  return undefined;
}

/** In a pass that touches no tuner, what sounds so far above is another string, cents. */
const STRAY_CENTS = 100;
/** What is said of a sound far above a string whose tuner nobody touches; undefined where it is near. @param cents what is heard, from the target */
export const strayWords = (cents: number): string | undefined =>
  cents > STRAY_CENTS ? 'Another string rings on: damp it, or wait.' : undefined;
