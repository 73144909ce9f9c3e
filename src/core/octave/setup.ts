import { THREADS_MM } from './octave';

/** What the owner says of an instrument's bridge. */
export interface BridgeSetup {
  /** Octave errors beyond this are too far, cents. */
  limitCents: number;
  /** Pitch of the saddle screws' thread, mm a turn. */
  threadMm: number;
  /** How far a saddle can still go either way from where it stood first, mm; null where nobody said. */
  travelMm: number | null;
}

/** Of a bridge of which nobody said anything (house). */
export const USUAL_SETUP: BridgeSetup = { limitCents: 4, threadMm: THREADS_MM.M3, travelMm: null };
