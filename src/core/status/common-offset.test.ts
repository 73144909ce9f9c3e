import { instrumentStatus, commonOffset } from './index';
import type { InstrumentLife } from '../log';
import { MINUTE, HOUR } from '../base';

const life = (offsets: number[], spanMs = MINUTE): InstrumentLife => ({
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

const unexpected = (offsets: number[], sigmaCents = 0.8) =>
  offsets.map((cents, i) => ({ stringId: `s${i}`, unexpected: { cents, sigmaCents } }));

test.each<[string, number[], RegExp | undefined]>([
  [
    'another reference',
    [7.6, 8.2, 7.9, 8.0],
    /All strings of Lyre are about 7\.9 cents sharper than expected, as if tuned to A4 = 442\.0 Hz\./,
  ],
  ['a low one is no capo', [-7.6, -8.2, -7.9, -8.0], /flatter than expected, as if tuned to A4 = 438\.0 Hz\.$/],
  ['a capo', [99, 100.5, 101, 100], /100 cents sharper than expected\. Is a capo on fret 1\?/],
  ['tuned down', [-99, -100, -101, -100.5], /Is it tuned a half step down\?/],
  ['a room moves strings of different make differently', [-3, -9, -6, -14], undefined],
  ['near enough', [1, 1.2, 0.8, 1], undefined],
])('%s', (_, offsets, words) => {
  const off = commonOffset(life(offsets), unexpected(offsets), 440);
  if (words) expect(off!.words).toMatch(words);
  else expect(off).toBeUndefined();
});

test('what all fell as new strings fall, or what lies within the doubt of that, is no question of the reference', () => {
  const flat = [-4.5, -4.4, -4.3, -4.4];
  expect(commonOffset(life(flat), unexpected([-0.3, 0.2, 0.1, -0.2]), 440)).toBeUndefined();
  expect(commonOffset(life(flat), unexpected(flat, 6), 440)).toBeUndefined();
  const unread = flat.map((_, i) => ({ stringId: `s${i}`, unexpected: null }));
  expect(commonOffset(life(flat), unread, 440)).toBeUndefined();
});

test('readings of different hours are no one look', () => {
  const eights = [8, 8, 8, 8];
  expect(commonOffset(life(eights, HOUR), unexpected(eights), 440)).toBeUndefined();
});

test('an hour after stringing the log asks nothing of the reference; under another reference it does', () => {
  const strung = life([0, 0, 0, 0]);
  const said = (a4Hz: number) => {
    const shift = 1200 * Math.log2(440 / a4Hz);
    const strings = strung.strings.map((s, i) => {
      const falls: [number, number, 'as-left' | 'as-found'][] = [
        [2, -30 - i, 'as-found'],
        [3, 0, 'as-left'],
        [12, -18 - 2 * i, 'as-found'],
        [13, 0, 'as-left'],
        [60, -11 - i, 'as-found'],
      ];
      const readings = falls.map(([minute, cents, purpose], k) => ({
        ...s.readings[0]!,
        id: `${i}-${k}`,
        atMs: minute * MINUTE + i * 1000,
        cents: cents + shift,
        purpose,
      }));
      return { ...s, readings };
    });
    const wish = { nowMs: HOUR, toleranceCents: 3, holdMin: 90, curtainMs: null, confidence: 0.9 };
    const tuned = { ...strung, strings };
    return commonOffset(tuned, instrumentStatus(tuned, wish), a4Hz)?.words;
  };
  expect(said(440)).toBeUndefined();
  expect(said(415)).toMatch(/All strings of Lyre are about 103 cents sharper than expected/);
});
