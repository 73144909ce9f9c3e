import type { Zone } from '../base';
import { inCents, signedCents } from '../music';
import { clockTime } from '../base';

/** A half width, to a tenth below three cents, never 0. */
const halfWords = (half: number): string => `±${half < 3 ? Math.max(0.1, half).toFixed(1) : half.toFixed(0)}`;
/** '−8.5 ±1.0 cents', to whole cents where the doubt is wide. */
const aboutCents = (value: number, half: number): string => {
  const digits = half < 3 ? 1 : 0;
  const [, unit] = inCents(value, digits).split(' ');
  return `${signedCents(value, digits)} ${halfWords(half)} ${unit}`;
};

export const STATE_WORDS = {
  settling: 'is settling',
  holding: 'holds',
  slipped: 'slipped',
  rose: 'rose',
  unread: 'is not read',
} as const;

export const nowWords = (note: string, value: number, half: number) =>
  `${note}: about ${aboutCents(value, half)} now, if nobody has touched it.`;
export const atWords = (note: string, value: number, half: number, atMs: number, zone: Zone) =>
  `${note}: about ${aboutCents(value, half)} at ${clockTime(atMs, zone)}, if untouched.`;
export const fallenWords = (note: string, cents: number, since: string) =>
  `${note}: ${cents < -0.5 ? 'risen' : 'fallen'} ${inCents(cents)} in all since ${since}.`;
export const roomWords = (note: string, cents: number, degrees: number, since: string) =>
  `${note}: the room is ${Math.abs(degrees).toFixed(0)} °C ${degrees > 0 ? 'warmer' : 'colder'} than at ${since}. That moved it about ${signedCents(cents)} cents.`;
