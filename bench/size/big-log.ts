import { RECORD_VERSION, type LogRecord } from '../../src/core/log';
import { DEFAULT_A4_HZ, targetFrequencyHz } from '../../src/core/music';
import { randomFrom } from '../../src/core/simulate';
import { DAY } from '../../src/core/base';

const NOTES = ['E4', 'B3', 'G3', 'D3', 'A2', 'E2'];
const STRUNG_DAYS = 60;

/** A busy rack: instruments strung one after another in two months, each read and brought up ever more rarely. */
export function bigLog(instruments: number, strings: number, readings: number, endMs: number): LogRecord[] {
  const random = randomFrom(3);
  const base = { version: RECORD_VERSION, zoneMin: 0 } as const;
  const records: LogRecord[] = [];
  for (let i = 0; i < instruments; i++) {
    const instrumentId = `i${i}`;
    const startMs = Math.round(endMs - (2 + (STRUNG_DAYS * i) / instruments) * DAY);
    const ofInstrument = { ...base, instrumentId };
    records.push({
      ...ofInstrument,
      id: instrumentId,
      type: 'instrument',
      atMs: startMs,
      name: `Guitar ${i + 1}`,
      family: 'guitar-nylon',
      strings: Array.from({ length: strings }, (_, s) => ({
        stringId: `s${s}`,
        note: NOTES[s % NOTES.length]!,
        lengthMm: 650,
        material: s % NOTES.length < 3 ? 'plain-nylon' : 'wound-nylon',
        gaugeMm: 0.8,
      })),
    });
    for (let s = 0; s < strings; s++) {
      const stringId = `s${s}`;
      const ofString = { ...ofInstrument, stringId };
      records.push({
        ...ofString,
        id: `${instrumentId}-${stringId}-f`,
        type: 'fitted',
        atMs: startMs,
      });
      for (let k = 0; k < readings; k++) {
        const targetHz = targetFrequencyHz(NOTES[s % NOTES.length]!, DEFAULT_A4_HZ)!;
        const cents = k % 2 ? 0.3 * random.normal() : -3 - random.uniform();
        const frequencyHz = targetHz * Math.pow(2, cents / 1200);
        records.push({
          ...ofString,
          id: `${instrumentId}-${stringId}-${k}`,
          type: 'reading',
          atMs: Math.round(startMs + ((k + 1) / readings) ** 2 * (endMs - startMs)),
          purpose: k % 2 ? 'as-left' : 'as-found',
          source: 'microphone',
          frequencyHz,
          cents,
          sigmaCents: 0.2,
          targetHz,
          a4Hz: DEFAULT_A4_HZ,
          ...(k % 2 ? { arrival: 'from below' as const } : {}),
          partials: Array.from({ length: 8 }, (_, n) => ({
            n: n + 1,
            frequencyHz: (n + 1) * frequencyHz,
            sigmaHz: 0.01,
          })),
        });
      }
    }
  }
  // One device wrote it all, as time went on.
  return records
    .sort((a, b) => a.atMs - b.atMs)
    .map((r, i) => ({ ...r, written: { by: 'stage', seq: i + 1, atMs: r.atMs } }));
}
