import type { SettlingMaterial, SettlingPrior } from './materials';
import { clamp } from '../base';

/** What hands do to a string beside tuning it: pull it, warm it, play it. `t` is when they begin. */
export type HandEvent = { t: number; kind: 'stretch' } | { t: number; kind: 'warm' | 'play'; minutes: number };

/** What happened to one string since it was strung, in order of time. Times in min since strung, cents from target. */
export type SettlingEvent =
  /** `anywhere`: it slipped, or was tuned without a word; no hand brought it to its target. */
  | { t: number; kind: 'retune'; anywhere?: true }
  | { t: number; kind: 'read'; cents: number; sigmaCents?: number; tempC?: number; source?: 'typed' | 'heard' }
  | HandEvent;

/** In order of time, where what hands did counts from when they have done. */
export function inOrder(events: readonly SettlingEvent[]): SettlingEvent[] {
  if (!events.some((e) => 'minutes' in e)) return [...events];
  return events.map((e, i) => {
    if (!('minutes' in e)) return e;
    return { ...e, t: Math.min(e.t + e.minutes, events[i + 1]?.t ?? Infinity) };
  });
}

export interface StringHistory {
  material: SettlingMaterial;
  /** Learned from earlier sets, instead of the material's own. */
  prior?: SettlingPrior;
  events: SettlingEvent[];
}

export interface Retune {
  t: number;
  /** Size of the bring-up in cents, 0..300; 0 where it is not known. */
  sizeCents: number;
}

/** An as-found reading this old or older says nothing of the size of the bring-up, min. */
const FOUND_WITHIN_MIN = 5;
export const LARGEST_CENTS = 300;

/** All retunings with their sizes, from the reading found just before each; the first counts 0. */
export function retunesOf(events: SettlingEvent[]): Retune[] {
  const retunes: Retune[] = [];
  let found: { t: number; cents: number } | undefined;
  for (const e of events) {
    if (e.kind === 'read') {
      found = e;
      continue;
    }
    if (e.kind !== 'retune') {
      found = undefined;
      continue;
    }
    const known = retunes.length > 0 && found !== undefined && e.t - found.t < FOUND_WITHIN_MIN;
    retunes.push({ t: e.t, sizeCents: known ? clamp(-found!.cents, 0, LARGEST_CENTS) : 0 });
    found = undefined;
  }
  return retunes;
}
