import { within } from './fields';
import { ofInstrument, recordKind, type RecordOf } from './record';

/** What its owner says of an instrument's saddles; the newest counts. */
export const saddle = recordKind(
  'saddle',
  {
    ...ofInstrument,
    /** Octave errors beyond this are too far, cents. */
    limitCents: within(1, 30).required(),
    /** Pitch of the saddle screws' thread, mm a turn. */
    threadMm: within(0.05, 3).required(),
    /** How far a saddle can go either way from where it stood first, mm; null where nobody said. */
    travelMm: within(0.1, 50).nullable().defined(),
  },
  (r, names) => `${names.instrument(r.instrumentId)}: its saddles, octaves within ${r.limitCents} cents`,
  { instrumentId: 'x', limitCents: 3, threadMm: 0.5, travelMm: 6 },
);
export type SaddleRecord = RecordOf<typeof saddle>;
