import type { InstrumentLife } from '../records';
import { commonOffset } from '.';

const life = (offsets: number[], spanMs = 60000): InstrumentLife => ({
  record: {
    id: 'r',
    version: 2,
    type: 'instrument',
    atMs: 0,
    zoneMin: 0,
    instrumentId: 'x',
    name: 'Lyre',
    family: 'own',
    strings: [],
  },
  strings: offsets.map((cents, i) => ({
    plan: { stringId: `s${i}`, note: 'A3', lengthMm: 600, material: 'gut', gaugeMm: 0.8 },
    strungMs: 0,
    readings: [
      {
        id: `r${i}`,
        version: 2,
        type: 'reading',
        atMs: i * spanMs,
        zoneMin: 0,
        instrumentId: 'x',
        stringId: `s${i}`,
        purpose: 'as-found',
        source: 'typed',
        frequencyHz: 220,
        cents,
        sigmaCents: 0.3,
        targetHz: 220,
        a4Hz: 440,
        partials: [],
      },
    ],
    rounds: [],
    treatments: [],
    windings: null,
    bare: false,
    past: [],
  })),
});

test.each<[string, number[], RegExp | undefined]>([
  ['another reference', [7.6, 8.2, 7.9, 8.0], /everything stands \+7\.9: is the reference 442\.0 Hz, or a capo on\?/],
  ['a capo', [99, 100.5, 101, 100], /is a capo on fret 1\?/],
  ['tuned down', [-99, -100, -101, -100.5], /is it tuned a half step down\?/],
  ['a room moves strings of different make differently', [-3, -9, -6, -14], undefined],
  ['near enough', [1, 1.2, 0.8, 1], undefined],
])('%s', (_, offsets, words) => {
  const off = commonOffset(life(offsets), 440);
  if (words) expect(off!.words).toMatch(words);
  else expect(off).toBeUndefined();
});

test('readings of different hours are no one look', () => {
  expect(commonOffset(life([8, 8, 8, 8], 3600000), 440)).toBeUndefined();
});
