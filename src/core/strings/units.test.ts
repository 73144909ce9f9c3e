import fc from 'fast-check';
import { forceWords, gaugeWords, handleAngleDeg, lengthWords, parseGaugeMm, parseLengthMm, slackForTurnsMm } from '.';

test.each([
  ['0.25', 0.25],
  ['.010', 0.254],
  ['0.010', 0.254],
  ['10', 0.254],
  ['46', 1.1684],
  ['.0095', 0.2413],
  ['1,02', 1.02],
  ['0.25 mm', 0.25],
  ['.105', 2.667],
  ['10 thou', 0.254],
  ['.010"', 0.254],
  ['1', 1],
])('the gauge %s is %s mm', (text, mm) => {
  expect(parseGaugeMm(text)).toBeCloseTo(mm, 6);
});

test.each(['', 'E', '0', '-0.25', '0.02 mm', '900', '7 mm', '1.2.3'])('%p is no gauge', (text) => {
  expect(parseGaugeMm(text)).toBeUndefined();
});

test('a gauge reads back the same in both ways of writing it', () => {
  expect(gaugeWords(0.254)).toBe('0.254 mm (.010 in)');
  fc.assert(
    fc.property(fc.integer({ min: 8, max: 130 }), (thousandths) => {
      const mm = parseGaugeMm(String(thousandths))!;
      expect(parseGaugeMm(/\((.*)\)/.exec(gaugeWords(mm))![1]!)).toBeCloseTo(mm, 6);
    }),
  );
});

test('lengths and tensions in either unit', () => {
  expect(parseLengthMm('25.5', 'in')).toBeCloseTo(647.7, 6);
  expect(parseLengthMm('25.5 in', 'mm')).toBeCloseTo(647.7, 6);
  expect(parseLengthMm('64,8 cm', 'mm')).toBeCloseTo(648, 6);
  expect(parseLengthMm('long', 'mm')).toBeUndefined();
  expect(lengthWords(647.7, 'in')).toBe('25.50 in');
  expect(forceWords(72.6, 'lb')).toBe('16.3 lb');
  expect(forceWords(72.6, 'kg')).toBe('7.4 kg');
  expect(forceWords(72.6, 'N')).toBe('73 N');
});

test('three turns on a 6 mm post want three circumferences; a tail a circumference longer brings the handle round once', () => {
  expect(slackForTurnsMm(3, 6)).toBeCloseTo(56.55, 2);
  expect(handleAngleDeg(Math.PI * 8, 8)).toBeCloseTo(360, 9);
});
