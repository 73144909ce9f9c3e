import { FAMILIES, stringLoad, traitsOf, tunerPlace, centsPerTurn, farWords, fineTravelLeft, turnOf } from '.';
import { targetFrequencyHz } from '../music';

test.each([
  ['guitar-steel', 0, 'first tuner from the nut, treble side'],
  ['guitar-steel', 3, 'third tuner from the nut, bass side'],
  ['electric-floating', 0, 'sixth tuner from the nut'],
  ['viola', 1, 'upper peg, treble side: inner strings go to the upper pegs'],
  ['viola', 3, 'lower peg, bass side'],
  ['kantele-11', 7, 'pin 4 from the long side'],
] as const)('%s, string %d: %s', (family, index, words) => {
  const count = FAMILIES.find((f) => f.code === family)!.strings.length;
  expect(tunerPlace(traitsOf({ family }).layout, index, count).words).toBe(words);
});

test('every string of every family has a tuner of its own, and a turn that moves it by a reasonable interval', () => {
  for (const { code, strings } of FAMILIES) {
    const traits = traitsOf({ family: code });
    const places = strings.map((_, i) => tunerPlace(traits.layout, i, strings.length));
    expect(new Set(places.map((p) => `${p.side} ${p.at}`)).size).toBe(strings.length);
    for (const s of strings) {
      const frequencyHz = targetFrequencyHz(s.note, 440)!;
      const load = stringLoad({ ...s, gaugeMm: s.gaugeMm ?? undefined, frequencyHz });
      const per = centsPerTurn(s, load, traits)!;
      // Nylon on a geared post some tens of cents, thin steel on a pin or on a quarter-size violin's peg several octaves.
      expect(per.tuner).toBeGreaterThan(15);
      expect(per.tuner).toBeLessThan(14000);
    }
  }
});

test('a plain steel string by Hooke: 648 mm, 0.254 mm at E4, a 6 mm post behind 16 to 1', () => {
  const s = { material: 'plain-steel', gaugeMm: 0.254, lengthMm: 648 } as const;
  const load = stringLoad({ ...s, frequencyHz: 329.63 })!;
  // EA = 200e9 x pi/4 x 0.254e-3^2 = 10 134 N; 865.6 x 10134 / (72.6 x 777.6 mm) = 155 cents a mm; 1.178 mm a turn.
  expect(centsPerTurn(s, load, { postMm: 6, ratio: 16, fineTuners: false })!.tuner).toBeCloseTo(183, -1);
});

test('how far, in words', () => {
  const per = { tuner: 120, fine: null };
  expect(farWords(turnOf(30, per, 'geared'))).toBe('about a quarter turn');
  expect(farWords(turnOf(-60, per, 'geared'))).toBe('about half a turn');
  expect(farWords(turnOf(300, per, 'geared'))).toBe('about 2 and a half turns, pluck all the while');
  expect(farWords(turnOf(3, per, 'geared'))).toBe('a touch');
  expect(farWords(turnOf(60, per, 'geared', 2))).toBe('about a quarter turn');
  expect(farWords(turnOf(20, { tuner: 1200, fine: null }, 'pin'))).toBe('about a minute on the clock face');
  expect(farWords(turnOf(20, { tuner: 1200, fine: 40 }, 'friction-peg'))).toBe('about half a turn of the fine tuner');
});

test('a fine tuner’s travel is used up by bring-ups, and a peg sets it free', () => {
  expect(
    fineTravelLeft([
      { found: -20, left: 0 },
      { found: -15, left: 0 },
    ]),
  ).toBe(25);
  expect(
    fineTravelLeft([
      { found: -20, left: 0 },
      { found: -150, left: 0 },
    ]),
  ).toBe(60);
});
