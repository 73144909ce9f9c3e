import { addHum, addNoise, randomFrom } from '../../simulate';
import { checkClock, checkInput } from '..';

const RATE = 48000;
const room = (rms: number): Float32Array => {
  const x = new Float32Array(2 * RATE);
  addNoise(x, rms, randomFrom(5));
  return x;
};
const tone = (hz: number) =>
  Float64Array.from({ length: 2 * RATE }, (_, i) => 0.2 * Math.sin((2 * Math.PI * hz * i) / RATE));

test('a quiet room is good, a muted input and a loud room are told', () => {
  expect(checkInput(Float64Array.from(room(0.0005)), RATE)).toMatchObject({ kind: 'good', hum: null });
  expect(checkInput(new Float64Array(2 * RATE), RATE).kind).toBe('silent');
  expect(checkInput(Float64Array.from(room(0.02)), RATE).kind).toBe('loud');
});

test.each([50, 60])('hum of %p Hz mains is found and weighed', (mains) => {
  const strong = room(0.0005);
  addHum(strong, RATE, mains, 0.01, randomFrom(6));
  const check = checkInput(Float64Array.from(strong), RATE);
  expect(check.kind).toBe('hum');
  expect(check.hum!.frequencyHz % mains).toBe(0);
  expect(check.message).toContain(`${check.hum!.frequencyHz} Hz`);
  const faint = room(0.00005);
  addHum(faint, RATE, mains, 0.0004, randomFrom(6));
  expect(checkInput(Float64Array.from(faint), RATE)).toMatchObject({
    kind: 'good',
    message: expect.stringContaining('does not matter') as string,
  });
});

test('the sample clock is measured to a few parts in a million', () => {
  const check = checkClock(tone(440 * (1 - 40e-6)), RATE, 440);
  expect(check).toMatchObject({ ok: true });
  if (check.ok) expect(Math.abs((check.ratio - 1) * 1e6 - 40)).toBeLessThan(3);
  expect(checkClock(tone(445), RATE, 440).ok).toBe(false);
  expect(checkClock(Float64Array.from(room(0.001)), RATE, 440).ok).toBe(false);
});
