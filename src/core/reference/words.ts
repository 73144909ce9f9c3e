import { A4_MAX_HZ, A4_MIN_HZ, signedCents, plusMinus } from '../music';
import { DRIFT_CENTS, type ToneAverage } from './average';
import type { ReferenceKind } from '../two-strings';

/** Who sounds: another player holds a note as a reed does. */
export type Sounding = ReferenceKind | 'player';

/** What to do against a pitch that moves while it sounds. */
const STEADIER: Record<Sounding, string> = {
  fork: 'Strike it more gently and hold it still.',
  reed: 'Blow evenly, or let it warm up.',
  player: 'Ask for one long, even note.',
  keyboard: 'Hold the key down and do not play another.',
  string: 'Pluck more gently and wait a moment.',
};
/** What to do against repeats that move one way. */
const SETTLED: Record<Sounding, string> = {
  fork: 'It is warming in your hand. Lay it down for some minutes.',
  reed: 'It is warming up. Play it for some minutes, then measure again.',
  player: 'Ask for the note again when the instrument is warm.',
  keyboard: 'Measure again when it has been on for some minutes.',
  string: 'It is still settling. Measure again later.',
};
const WHY = {
  spreads: ({ spreadCents }: ToneAverage) => `The repeats differ by ${spreadCents.toFixed(1)} cents.`,
  drifts: ({ driftCents }: ToneAverage) => `It went ${signedCents(driftCents)} cents from the first to the last.`,
  room: () => 'The room is too loud to read it more exactly.',
  tone: () => 'The tone itself is not steady: it beats or wavers.',
};

/** How the repeats stand, one sentence each: how they agree, why they do not, and what would help. @param whileCents how far it went while it sounded */
export function repeatsTold(average: ToneAverage, count: number, whileCents: number, of: Sounding): string[] {
  const { verdict, spreadCents } = average;
  const wavers = of !== 'string' && Math.abs(whileCents) > DRIFT_CENTS;
  const while_ = wavers ? [`It went ${signedCents(whileCents)} cents while it sounded.`] : [];
  if (verdict === 'agree')
    return [`${count} repeats agree within ${Math.max(0.1, spreadCents).toFixed(1)} cents.`, ...while_];
  if (verdict === undefined) return ['You can use it now. Another repeat makes it surer.', ...while_];
  const help =
    verdict === 'drifts' ? SETTLED[of] : verdict === 'room' ? 'Go nearer, or to a quieter place.' : STEADIER[of];
  return [WHY[verdict](average), ...while_, help, 'You can still use it as it is.'];
}

/** Why the figure is not surer than it is, for the one that stands beside its ±. */
export const LIMITED_BY = {
  clock: 'limited by this device’s clock',
  room: 'limited by the noise in the room',
  tone: 'limited by the wavering tone',
};

/** @param of its doubt in cents, or the name of the A that it was */
export const heardWords = (hz: number, of: number | string): string =>
  typeof of === 'number' ? `${hz.toFixed(2)} Hz ${plusMinus(of, 2)} cents.` : `${of}: ${hz.toFixed(2)} Hz.`;
export const inForceWords = (hz: number) => `A4 is now ${hz} Hz.`;
export const measuredWords = (hz: number) =>
  `A4 is now ${hz.toFixed(1)} Hz. Earlier readings keep their own reference.`;
/** Between what an A4 is taken. */
export const A4_RANGE = `from ${A4_MIN_HZ} to ${A4_MAX_HZ} Hz`;
export const OUT_OF_RANGE = `A reference must be ${A4_RANGE}.`;

/** What was heard of one tone. @param fromCents from what is in force */
export const heldWords = (sigmaCents: number, lastsS: number, limit: string, fromCents: number): string =>
  `Hz ${plusMinus(sigmaCents, 2)} cents after ${lastsS.toFixed(1)} s (${limit}), ${signedCents(fromCents)} from what is in force`;
/** What its repeats come to. @param of what it is of: 'Your fork is' @param fromCents from what is in force */
export const averageWords = (of: string, { frequencyHz, sigmaCents }: ToneAverage, fromCents: number): string =>
  `${of} at ${frequencyHz.toFixed(1)} Hz ${plusMinus(sigmaCents, 2)} cents, ${signedCents(fromCents)} from what is in force`;
/** What warmth does to a fork. @param cents from its pitch at 20 °C */
export const forkWords = (cents: number): string =>
  `In this room a steel fork is ${signedCents(cents)} cents from its pitch at 20 °C.`;
/** How wide a keyboard's octaves are. @param cents wider than pure @param count of its As */
export const octavesWords = (cents: number, count: number): string =>
  `Its octaves are ${Math.abs(cents).toFixed(1)} cents ${cents >= 0 ? 'wider' : 'narrower'} than pure (from ${count} As). Tune low strings that much ${cents >= 0 ? 'flatter' : 'sharper'} for each octave below.`;
/** What another device is set to, by what it shows here. */
export const otherWords = (hz: number): string => `: it is set to ${hz.toFixed(1)} Hz.`;
