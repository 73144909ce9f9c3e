import { cents, fifthsOffsets, justOffsets, openChords, stringTargetHz, transpose, tuningCost } from '.';

const of = (notes: string[], offsets: number[]) => notes.map((note, i) => ({ note, offsetCents: offsets[i]! }));
const hz = (s: { note: string; offsetCents: number }) => stringTargetHz(s, 440)!;

test('pure fifths from A outward are pure between neighbours, and leave the third they make a comma wide', () => {
  const viola = ['A4', 'D4', 'G3', 'C3'];
  const strings = of(viola, fifthsOffsets(viola, 0));
  expect(hz(strings[0]!)).toBe(440);
  for (let i = 1; i < 4; i++) expect(hz(strings[i - 1]!) / hz(strings[i]!)).toBeCloseTo(1.5, 9);
  const cost = tuningCost(strings);
  // The syntonic comma, 81/80.
  expect(cost.worst).toMatchObject({ a: 'C3', b: 'A4', interval: 'major sixth', chord: 'A minor' });
  expect(cost.worst!.cents).toBeCloseTo(cents(81, 80), 6);
  expect(cost.furthest.note).toBe('C3');
  // Narrowed by a quarter of it, the sixth is pure and the fifths pay.
  const quarter = tuningCost(of(viola, fifthsOffsets(viola, cents(81, 80) / 4)));
  expect(quarter.worst!.interval).toMatch(/fifth|fourth/);
  expect(quarter.worst!.cents).toBeCloseTo(-cents(81, 80) / 4, 6);
});

test('just on a tonic has pure thirds there and a wolf elsewhere; equal temperament has neither', () => {
  const lyre = ['D4', 'E4', 'F#4', 'G4', 'A4', 'B4', 'C#5', 'D5'];
  const strings = of(lyre, justOffsets(lyre, 2));
  expect(hz(strings[4]!)).toBeCloseTo(440, 9);
  expect(hz(strings[2]!) / hz(strings[0]!)).toBeCloseTo(5 / 4, 9);
  expect(hz(strings[4]!) / hz(strings[0]!)).toBeCloseTo(3 / 2, 9);
  // The fifth on the second degree is a comma narrow: E to B.
  expect(tuningCost(strings).worst).toMatchObject({ a: 'E4', b: 'B4', interval: 'fifth', chord: 'E major' });
  const equal = tuningCost(
    of(
      lyre,
      lyre.map(() => 0),
    ),
  ).worst!;
  expect(Math.abs(equal.cents)).toBeCloseTo(15.64, 1);
});

test('down a half step and a capo are the same notes shifted, flats staying flats', () => {
  expect(['E2', 'A2', 'Bb3'].map((n) => transpose(n, -1))).toEqual(['D#2', 'G#2', 'A3']);
  expect(transpose('Ab3', 2)).toBe('Bb3');
  expect(transpose('C4', -1)).toBe('B3');
});

test('open chords let strings down only', () => {
  const chords = openChords(['E4', 'B3', 'G3', 'D3', 'A2', 'E2']);
  expect(chords.find((c) => c.root === 'G')?.notes).toEqual(['D4', 'B3', 'G3', 'D3', 'G2', 'D2']);
  expect(chords.find((c) => c.root === 'D')?.notes).toEqual(['D4', 'A3', 'F#3', 'D3', 'A2', 'D2']);
});
