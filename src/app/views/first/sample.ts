import { cents as centsOf, targetFrequencyHz } from '../../../core/music';
import { type Arrival, figuresOf } from '../../../core/guided';
import type { Reading } from '../../../core/pitch';
import { RECORD_VERSION, type InstrumentLife, type ReadingRecord } from '../../../core/records';
import type { StringTruth } from '../../../core/simulate';

/** The string to try things on: a nylon one, strung twenty minutes ago, in no log. */
const NOTE = 'E4';
const STRING_ID = 's1';
const INSTRUMENT_ID = 'sample';
const A4_HZ = 440;
const TARGET_HZ = targetFrequencyHz(NOTE, A4_HZ)!;
const AGE_MS = 20 * 60000;

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

/** A reading of it, as the log would hold it. */
export function sampleReading(
  reading: Reading,
  left: boolean,
  arrival: Arrival | undefined,
  atMs: number,
  zoneMin: number,
): ReadingRecord {
  const figures = figuresOf(reading);
  return {
    type: 'reading',
    id: `r${atMs}`,
    version: RECORD_VERSION,
    atMs: Math.round(atMs),
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
