import { broughtUp, carryTo, creepBetween, fallAhead, offsetNow, type Mixture, type SettlingFit } from '../settling';
import type { PlanString } from './types';
import { MINUTE } from '../base';

/** So many of the likeliest hypotheses are counted, of up to 162: the plan asks them hundreds of times. */
const BELIEVED = 20;
/** A hand leaves a string within this of where it means to, cents (house estimate). */
const HAND_CENTS = 0.8;

/** A forecast reduced to what is likely. */
function likely(fit: SettlingFit): SettlingFit {
  const kept = [...fit.components].sort((a, b) => b.share - a.share).slice(0, BELIEVED);
  const total = kept.reduce((s, c) => s + c.share, 0);
  return { ...fit, components: kept.map((c) => ({ ...c, share: c.share / total })) };
}

/** How far a string will have fallen: mean and standard deviation, cents. */
export interface Fall {
  mean: number;
  sd: number;
}

/** What one string does from a moment on. */
export interface StringCourse {
  /** Fall from that moment to a time, as a mixture. */
  fallTo(atMs: number): Mixture;
  /** Where it stands at that moment, cents; null where the hand decides. */
  standsCents: number | null;
  /** How sure that is, cents. */
  sigmaCents: number;
  fromMs: number;
}

/** A string's courses: left as it was read, or brought up at some time. */
export function coursesOf({ fit: whole, startMs, lastReadMs }: PlanString) {
  const fit = likely(whole!);
  const ageMin = (atMs: number) => (atMs - startMs!) / MINUTE;
  const asRead = (): StringCourse => {
    const now = offsetNow(fit);
    return {
      fallTo: (atMs) => fallAhead(fit, Math.max(0.01, ageMin(atMs) - fit.nowMin)),
      standsCents: now.cents,
      sigmaCents: now.sigmaCents,
      fromMs: lastReadMs!,
    };
  };
  /** @param sizeCents how far it is brought up there */
  const raised = (atMs: number, sizeCents: number): StringCourse => {
    const at = carryTo(fit, ageMin(atMs));
    const renewed = broughtUp(at, sizeCents);
    return {
      fallTo: (toMs) => fallAhead(renewed, Math.max(0.01, ageMin(toMs) - at.nowMin)),
      standsCents: null,
      sigmaCents: HAND_CENTS,
      fromMs: atMs,
    };
  };
  return {
    fit,
    ageMin,
    asRead,
    broughtUp: raised,
    creepTo: (fromMs: number, toMs: number) => creepBetween(fit, ageMin(fromMs), ageMin(toMs)),
  };
}
export type Courses = ReturnType<typeof coursesOf>;
