import { readFileSync } from 'node:fs';
import Papa from 'papaparse';
import { localIso, MINUTE } from '../base';
import { MEASURES, TESTS } from '../codes';
import { RECORD_KINDS, readBench, type LogRecord, type ReadingRecord } from '../log';
import { FAMILIES } from '../strings';
import { readingsCsv, readLogFile, readWav, writeLogFile, writeWav } from '.';
import { instrumentStatus } from '../status';

const base = { version: 2 as const, atMs: 1_780_000_000_000, zoneMin: 120 };
const instrument: LogRecord = {
  ...base,
  id: 'i1',
  type: 'instrument',
  instrumentId: 'lyre',
  name: '=cmd()',
  family: 'own',
  strings: [{ stringId: 's1', note: 'A4', lengthMm: 380, material: 'gut', gaugeMm: null }],
};
const reading: ReadingRecord = {
  ...base,
  id: 'r1',
  type: 'reading',
  instrumentId: 'lyre',
  stringId: 's1',
  purpose: 'as-found',
  source: 'microphone',
  frequencyHz: 438.4,
  cents: -6.3,
  sigmaCents: 0.1,
  targetHz: 440,
  a4Hz: 440,
  partials: [],
};

test('a log file comes back as it went', () => {
  const back = readLogFile(writeLogFile([reading, instrument], 1));
  expect(back.ok && back.records).toEqual([instrument, reading]);
});

test.each([
  ['no JSON', '{', /no JSON/],
  ['another format', '{"format":"x"}', /format/],
  ['a wrong field', writeLogFile([{ ...reading, cents: 'flat' as never }], 1), /Record 1 cents/],
  ['an unknown field', writeLogFile([{ ...reading, extra: 1 } as never], 1), /Record 1/],
  ['an infinite figure', writeLogFile([reading], 1).replace('-6.3', '1e999'), /Record 1 cents/],
  ['a newer version of the file', '{"format":"slow-anchor-log/3","records":[]}', /newer version of Slow Anchor/],
  [
    'a record of a newer version',
    writeLogFile([{ ...reading, version: 3, more: 1 } as never], 1),
    /newer version of Slow Anchor/,
  ],
  ['an unknown type', writeLogFile([{ ...reading, type: 'constructor' as never }], 1), /unknown type/],
  ['one id twice', writeLogFile([reading, reading], 1), /id of an earlier one/],
])('%s is refused whole, with the place', (_, text, sentence) => {
  const back = readLogFile(text);
  expect(back.ok).toBe(false);
  expect(!back.ok && back.message).toMatch(sentence);
  expect(!back.ok && back.message).toMatch(/Nothing was imported/);
});

test('the CSV is read back by a package; formulas are made harmless, numbers stay numbers', () => {
  const rows = Papa.parse<Record<string, string>>(readingsCsv([instrument, reading]), {
    header: true,
    skipEmptyLines: true,
  }).data;
  expect(rows[0]!.instrument).toBe("'=cmd()");
  expect(Number(rows[0]!['offset (cents)'])).toBe(-6.3);
  expect(rows[0]!['time (UTC)']).toBe(new Date(base.atMs).toISOString());
  expect(Date.parse(rows[0]!['time (local)']!)).toBe(base.atMs - (base.atMs % 1000));
  expect(rows[0]!['instrument (id)']).toBe(reading.instrumentId);
  expect(rows[0]!['string age (min)']).toBe('');
  const fitted = {
    ...base,
    id: 'f',
    type: 'fitted',
    instrumentId: reading.instrumentId,
    stringId: reading.stringId,
  } as const;
  const aged = readingsCsv([instrument, { ...fitted, atMs: reading.atMs - 90 * MINUTE }, reading]);
  expect(aged).toContain(',90.0,');
  // Whatever a spreadsheet takes for the beginning of a formula, and a header over no readings.
  const named = (name: string) =>
    Papa.parse<Record<string, string>>(readingsCsv([{ ...instrument, name }, reading]), { header: true }).data[0]!;
  for (const name of ['=1', '＝1', '+A1', '-A1', '@x', '\t=1', '\n=1', '\r=1'])
    expect(named(name).instrument).toBe(`'${name}`);
  expect(named('He said "5, 6"').instrument).toBe('He said "5, 6"');
  expect(named('-6.3').instrument).toBe('-6.3');
  expect(readingsCsv([instrument, reading]).split('\r\n')[1]).toContain(',"as-found","microphone",-6.300,0.100,');
  expect(readingsCsv([])).toMatch(/^"time \(UTC\)",.*"room \(deg C\)"\r\n$/);
  expect(localIso(0, -210)).toBe('1969-12-31T20:30:00-03:30');
});

describe('WAV files', () => {
  const tone = Float32Array.from({ length: 800 }, (_, i) => 0.5 * Math.sin(i / 9));
  test('float comes back exactly', () => {
    const back = readWav(writeWav(tone, 48000));
    expect(back.ok && back.sound.sampleRate).toBe(48000);
    expect(back.ok && Math.abs(back.sound.samples[123]! - tone[123]!)).toBeLessThan(1e-9);
  });
  test.each([
    [1, 8],
    [2, 16],
    [2, 24],
    [1, 32],
  ])('%p channels of %p-bit integers', (channels, bits) => {
    const bytes = pcm(tone, channels, bits);
    const back = readWav(bytes);
    expect(back.ok && back.sound.samples.length).toBe(tone.length);
    expect(back.ok && Math.abs(back.sound.samples[200]! - tone[200]!)).toBeLessThan(2.5 / 2 ** (bits - 1));
  });
  test('anything else is refused with a sentence', () => {
    expect(readWav(new Uint8Array([1, 2, 3])).ok).toBe(false);
    expect(readWav(writeWav(tone, 48000).slice(0, 30)).ok).toBe(false);
  });
});

/** A plain PCM file written by hand, so that the reader is not tested against the package's own writer. */
function pcm(samples: Float32Array, channels: number, bits: number): Uint8Array {
  const width = bits / 8;
  const size = samples.length * channels * width;
  const view = new DataView(new ArrayBuffer(44 + size));
  const text = (at: number, s: string) => [...s].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)));
  text(0, 'RIFF');
  view.setUint32(4, 36 + size, true);
  text(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, channels, true);
  view.setUint32(24, 44100, true);
  view.setUint32(28, 44100 * channels * width, true);
  view.setUint16(32, channels * width, true);
  view.setUint16(34, bits, true);
  text(36, 'data');
  view.setUint32(40, size, true);
  samples.forEach((v, i) => {
    for (let c = 0; c < channels; c++) {
      const at = 44 + (i * channels + c) * width;
      const n = Math.round(v * (2 ** (bits - 1) - 1));
      if (bits === 8) view.setUint8(at, n + 128);
      else for (let b = 0; b < width; b++) view.setUint8(at + b, (n >> (8 * b)) & 255);
    }
  });
  return new Uint8Array(view.buffer);
}

describe('docs/formats.md', () => {
  const page = readFileSync('docs/formats.md', 'utf8');
  test('its example of a log by others is taken in whole, and says what it was made to say', () => {
    const read = readLogFile(readFileSync('docs/example-log.json', 'utf8'));
    if (!read.ok) throw new Error(read.message);
    const bench = readBench(read.records);
    const [life] = bench.instruments;
    expect(life!.strings.map((s) => s.readings.at(-1)!.cents)).toEqual([-6, -7, -5.2, -21.5]);
    expect(life!.strings.map((s) => s.windings)).toEqual([3, 3, 3, 3]);
    const wish = { toleranceCents: 3, holdMin: 90, curtainMs: bench.curtain!.curtainMs, confidence: 0.9 };
    const statuses = instrumentStatus(life!, { ...wish, nowMs: Date.UTC(2026, 5, 12, 14) });
    expect(statuses.map((s) => s.state)).toEqual(['settling', 'settling', 'settling', 'slipped']);
    const types = new Set(read.records.map((r) => r.type));
    for (const type of ['instrument', 'fitted', 'room', 'reading', 'round', 'treatment', 'curtain'])
      expect(types).toContain(type);
  });
  test('it names every type of record, every family, every test that is a record', () => {
    const missing = [...RECORD_KINDS.map((k) => k.type), ...FAMILIES.map((f) => f.code)].filter(
      (w) => !page.includes(`\`${w}\``),
    );
    expect(missing).toEqual([]);
    expect([...TESTS, ...MEASURES].filter((t) => !page.includes(t))).toEqual([]);
  });
});
