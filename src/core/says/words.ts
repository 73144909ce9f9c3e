import { inCents, signedCents } from '../music';
import { clockTime, type Zone } from '../base';

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

/** The one side of an interval is so many times as wide as the other where two things may be: it moved, or the figure is wrong. */
const LOPSIDED = 3;
const LOPSIDED_CENTS = 3;
export function nowWords(note: string, value: number, [low, high]: [number, number]): string {
  const [below, above] = [value - low, high - value];
  const wide = Math.max(below, above);
  if (wide > LOPSIDED_CENTS && wide > LOPSIDED * Math.min(below, above))
    return `${note}: about ${inWhole(value)} now, or up to ${inWhole(below > above ? low : high)} if that was read wrong. Read it once more.`;
  return `${note}: about ${aboutCents(value, (high - low) / 2)} now, if nobody has touched it.`;
}
const inWhole = (cents: number): string => `${signedCents(cents, 0)} ${inCents(cents).split(' ')[1]!}`;
export const atWords = (note: string, value: number, half: number, atMs: number, zone: Zone) =>
  `${note}: about ${aboutCents(value, half)} at ${clockTime(atMs, zone)}, if untouched.`;
export const fallenWords = (note: string, cents: number, since: string) =>
  `${note}: ${cents < -0.5 ? 'risen' : 'fallen'} ${inCents(cents)} in all since ${since}.`;
export const roomWords = (note: string, cents: number, degrees: number, since: string) =>
  `${note}: the room is ${Math.abs(degrees).toFixed(0)} °C ${degrees > 0 ? 'warmer' : 'colder'} than at ${since}. That moved it about ${signedCents(cents)} cents.`;
