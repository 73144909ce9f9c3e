import type { GuidedLog, KeptReading } from '../src/core/guided';
import type { Reading } from '../src/core/pitch';
import { createLogIndex, RECORD_VERSION, type Draft, type LogRecord } from '../src/core/log';
import { MINUTE } from '../src/core/base';

const START_MS = Date.UTC(2026, 5, 12, 12);

/** A log in memory, as guided jobs read and write it; each thing that is written comes a minute after the one before. */
export function memoryLog(family: string, notes: readonly string[], nowMs = START_MS) {
  const index = createLogIndex();
  let serial = 0;
  let atMs = nowMs;
  const write = (drafts: readonly Draft[] = []): LogRecord[] => {
    atMs += MINUTE;
    const records = drafts.map((d, i) => ({
      ...d,
      id: `r${serial++}`,
      version: RECORD_VERSION,
      atMs: d.atMs ?? atMs + i,
      zoneMin: 0,
    })) as LogRecord[];
    index.add(records);
    return records;
  };
  write([
    {
      type: 'instrument',
      instrumentId: 'x',
      name: 'X',
      family,
      strings: notes.map((note, i) => ({
        stringId: `s${i + 1}`,
        note,
        lengthMm: 650,
        material: 'plain-steel',
        gaugeMm: 0.3,
      })),
    } as Draft,
  ]);
  const log = (): GuidedLog => ({
    life: index.bench().instruments[0]!,
    bench: index.bench(),
    statuses: [],
    a4Hz: 440,
    nowMs: atMs,
    newId: () => `new${serial++}`,
  });
  return { log, write };
}

/** A reading so many cents from a target. */
export const readingAt = (targetHz: number, cents: number, more: Partial<Reading> = {}): Reading => ({
  ok: true,
  frequencyHz: targetHz * 2 ** (cents / 1200),
  cents,
  sigmaCents: 0.3,
  inharmonicity: null,
  snrDb: 40,
  fromS: 0,
  toS: 1,
  partials: [],
  glideCents: 0,
  driftCents: 0,
  sharpTauS: 0.3,
  ...more,
});

/** The same, let pass by the rules. */
export const keptAt = (
  targetHz: number,
  cents: number,
  { sigmaCents = 0.3, ...more }: Partial<KeptReading> & { sigmaCents?: number } = {},
): KeptReading => ({ kind: 'keep', reading: readingAt(targetHz, cents, { sigmaCents }), arrival: undefined, ...more });
