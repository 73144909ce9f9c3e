import { signedCents } from '../music';
import { clockTime } from '../records';

/** A half width, to a tenth below three cents, never 0. */
const plusMinus = (half: number): string => `±${half < 3 ? Math.max(0.1, half).toFixed(1) : half.toFixed(0)}`;
const unit = (value: number, digits: number): string => (Math.abs(value).toFixed(digits) === '1' ? 'cent' : 'cents');
/** '−8.5 ±1.0 cents', to whole cents where the doubt is wide. */
export const aboutCents = (value: number, half: number): string => {
  const digits = half < 3 ? 1 : 0;
  return `${signedCents(value, digits)} ${plusMinus(half)} ${unit(value, digits)}`;
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
export const atWords = (note: string, value: number, half: number, atMs: number, zoneMin: number) =>
  `${note}: about ${aboutCents(value, half)} at ${clockTime(atMs, zoneMin)}, if untouched.`;
export function fallenWords(note: string, cents: number, since: string): string {
  const whole = Math.abs(Math.round(cents));
  return `${note}: ${cents < -0.5 ? 'risen' : 'fallen'} ${whole} ${whole === 1 ? 'cent' : 'cents'} in all since ${since}.`;
}
export const roomWords = (note: string, cents: number, degrees: number, since: string) =>
  `${note}: the room is ${Math.abs(degrees).toFixed(0)} °C ${degrees > 0 ? 'warmer' : 'colder'} than at ${since}. That moved it about ${signedCents(cents)} cents.`;
