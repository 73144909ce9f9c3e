import fc from 'fast-check';
import { cents, formatNote, midiOf, nearestNote, parseNote, ratioOfCents, targetFrequencyHz } from '.';

test('A4 is the reference, and octaves double', () => {
  expect(targetFrequencyHz('A4', 442)).toBe(442);
  expect(targetFrequencyHz('A2', 440)).toBeCloseTo(110, 9);
  expect(targetFrequencyHz('B0', 440)).toBeCloseTo(30.868, 3);
  expect(targetFrequencyHz('E6', 440)).toBeCloseTo(1318.51, 2);
});

test('sharps and flats name the same pitch', () => {
  expect(midiOf(parseNote('F#3')!)).toBe(midiOf(parseNote('Gb3')!));
  expect(formatNote(parseNote('e♭4')!)).toBe('Eb4');
});

test.each(['H2', 'A', 'A10', '', 'A##3', '440'])('%p is no note', (text) => {
  expect(parseNote(text)).toBeUndefined();
});

test('cents and ratios undo one another', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 20, max: 2000, noNaN: true }),
      fc.double({ min: -2000, max: 2000, noNaN: true }),
      (f, c) => {
        expect(cents(f * ratioOfCents(c), f)).toBeCloseTo(c, 6);
      },
    ),
  );
});

test('the nearest note is never more than half a semitone away', () => {
  fc.assert(
    fc.property(fc.double({ min: 25, max: 4000, noNaN: true }), (f) => {
      const near = nearestNote(f, 440);
      expect(Math.abs(near.cents)).toBeLessThanOrEqual(50 + 1e-9);
      expect(cents(f, targetFrequencyHz(near.name, 440)!)).toBeCloseTo(near.cents, 6);
    }),
  );
});
