import type { Bench, SaddleRecord } from '../log';
import { THREADS_MM } from './saddle-law';

/** What the owner says of an instrument's saddles: how far an octave may be off, the screws' thread, their travel. */
export type SaddleSetup = Pick<SaddleRecord, 'limitCents' | 'threadMm' | 'travelMm'>;

/** Of saddles of which nobody said anything (house). */
export const USUAL_SETUP: SaddleSetup = { limitCents: 4, threadMm: THREADS_MM.M3, travelMm: null };

/** What is said of the saddles of an instrument, last. */
export const setupOf = ({ saddles }: Pick<Bench, 'saddles'>, instrumentId: string): SaddleSetup =>
  saddles.findLast((s) => s.instrumentId === instrumentId) ?? USUAL_SETUP;
