import { figuresOf, guidedOf, type KeptReading, type Procedure } from '../guided';
import { plusMinus, cents as centsOf, signedCents, targetFrequencyHz } from '../music';
import { RECORD_VERSION, type InstrumentLife, type ReadingRecord } from '../log';
import type { StringTruth } from '../simulate';
import { TOLERANCE_CENTS } from './tolerance';
import { MINUTE } from '../base';

/** The string to try things on: a nylon one, strung twenty minutes ago, in no log. */
const NOTE = 'E4';
const STRING_ID = 's1';
const INSTRUMENT_ID = 'sample';
const A4_HZ = 440;
const TARGET_HZ = targetFrequencyHz(NOTE, A4_HZ)!;
const AGE_MS = 20 * MINUTE;

/** A simulated string that has begun to fall. */
export const sampleTruth = (nowMs: number): StringTruth => ({
  stringId: STRING_ID,
  targetHz: TARGET_HZ,
  strungMs: nowMs - AGE_MS,
  creepCents: 9,
  renewal: 0.3,
  tempCoefficient: 0,
  inharmonicity: 4e-5,
  decayS: 1.2,
  rolloff: 1.3,
  seed: 21,
  startCents: 43,
  turns: [],
  slips: [],
});

/** What an instrument with this one string looks like to the core. */
export function sampleLife(strungMs: number, readings: ReadingRecord[], zoneMin: number): InstrumentLife {
  const plan = { stringId: STRING_ID, note: NOTE, lengthMm: 650, material: 'plain-nylon', gaugeMm: 0.71 } as const;
  return {
    record: {
      type: 'instrument',
      id: INSTRUMENT_ID,
      version: RECORD_VERSION,
      atMs: strungMs,
      zoneMin,
      instrumentId: INSTRUMENT_ID,
      name: 'A string to try',
      family: 'guitar-nylon',
      strings: [plan],
    },
    strings: [{ plan, strungMs, readings, rounds: [], treatments: [], windings: null, bare: false, past: [] }],
  };
}

/** What the sample is asked of: no log holds it. */
export interface SampleLog {
  nowMs: number;
  zoneMin: number;
  strungMs: number;
}
export interface SampleState {
  readings: ReadingRecord[];
  /** Hours that went by since it was read last. */
  hoursSince: number;
}
export const BEGIN_SAMPLE: SampleState = { readings: [], hoursSince: 0 };

/** What is to be done with it: plucked, left for an hour, plucked again, brought up; then it is done. */
export function sampleStage({ readings, hoursSince }: SampleState): 'pluck' | 'wait' | 'again' | 'up' | 'done' {
  const last = readings.at(-1);
  const read = readings.filter((r) => r.purpose === 'as-found').length;
  if (!last || read === 0) return 'pluck';
  if (hoursSince > 0) return 'again';
  if (read === 1) return 'wait';
  return Math.abs(last.cents) > TOLERANCE_CENTS ? 'up' : 'done';
}

/** A reading of it, as the log would hold it. */
function sampleReading({ reading, arrival }: KeptReading, left: boolean, { nowMs, zoneMin }: SampleLog): ReadingRecord {
  const figures = figuresOf(reading, 'simulated');
  return {
    type: 'reading',
    id: `r${nowMs}`,
    version: RECORD_VERSION,
    atMs: Math.round(nowMs),
    zoneMin,
    instrumentId: INSTRUMENT_ID,
    stringId: STRING_ID,
    targetHz: TARGET_HZ,
    a4Hz: A4_HZ,
    source: 'simulated',
    ...figures,
    cents: centsOf(figures.frequencyHz, TARGET_HZ),
    purpose: left ? 'as-left' : 'as-found',
    ...(arrival ? { arrival } : {}),
  };
}

/** The string to try, by the same rules as any other; nothing of it is kept. */
export const sampleProcedure: Procedure<SampleState, { do: 'later' }, SampleLog> = {
  next(log, state) {
    const stage = sampleStage(state);
    if (stage === 'wait' || stage === 'done') return undefined;
    const life = sampleLife(log.strungMs, state.readings, log.zoneMin);
    const purpose = stage === 'up' ? 'left' : 'found';
    return guidedOf(life, { stringId: STRING_ID, purpose }, A4_HZ, log.nowMs, { toleranceCents: TOLERANCE_CENTS });
  },
  heard(kept, _source, log, state) {
    const left = sampleStage(state) === 'up';
    const reading = sampleReading(kept, left, log);
    const at = signedCents(reading.cents);
    return {
      state: { readings: [...state.readings, reading], hoursSince: 0 },
      say: left ? `${at} cents, saved as left.` : `${at} ${plusMinus(reading.sigmaCents)} cents, saved as found.`,
    };
  },
  press: (_later, _log, state) => ({
    state: { ...state, hoursSince: state.hoursSince + 1 },
    say: 'An hour has passed. Nobody touched the string.',
  }),
};
