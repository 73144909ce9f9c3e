import { measureSteady } from '../two-strings';
import { averageTone, repeatsTold, type ToneReading } from '.';
import { addNoise, pluck, plainPluck, randomFrom } from '../simulate';

const RATE = 24000;
const cents = (a: number, b: number) => 1200 * Math.log2(a / b);
/** A struck key: three stiff strings that beat a little, and die. */
function struck(hz: number, lastsS: number, decayS: number, seed = 4): Float32Array {
  const random = randomFrom(seed);
  const out = new Float32Array(Math.round((lastsS + 1) * RATE));
  const [from, to] = [Math.round(0.4 * RATE), Math.round((0.4 + lastsS) * RATE)];
  for (const apart of [-0.2, 0, 0.15])
    pluck(
      plainPluck(hz * 2 ** (apart / 1200), { inharmonicity: 8e-4, decayS, glideCents: 0, level: 0.1 }),
      RATE,
      random,
    ).render(out, from, to, 1);
  addNoise(out, 3e-4, random);
  return out;
}

test.each([0.7, 1.2, 3])(
  'a key that sounds for %p s is its first partial, not the mean of upper ones that stand wide',
  (lastsS) => {
    const read = measureSteady(struck(441.2, lastsS, 1), RATE, 440, 'keyboard');
    expect(read).toMatchObject({ ok: true });
    if (!read.ok) return;
    expect(Math.abs(cents(read.frequencyHz, 441.2))).toBeLessThan(Math.max(0.3, 2 * read.sigmaCents));
    expect(read.sigmaCents).toBeLessThan(1.5);
    expect(read.sigmaCents).toBeGreaterThanOrEqual(0.05);
  },
);

test('one whose first partial is missing is told by the law of the others', () => {
  const random = randomFrom(2);
  const out = Float32Array.from({ length: 3 * RATE }, (_, i) => {
    const t = i / RATE - 0.4;
    const tone = (n: number) => Math.sin(2 * Math.PI * n * 110.4 * Math.sqrt(1 + 3e-4 * n * n) * t) / n;
    return 1e-4 * random.normal() + (t < 0 ? 0 : 0.1 * Math.exp(-t) * [2, 3, 4, 5, 6].reduce((s, n) => s + tone(n), 0));
  });
  const read = measureSteady(out, RATE, 110, 'keyboard');
  expect(read).toMatchObject({ ok: true });
  if (!read.ok) return;
  expect(Math.abs(cents(read.frequencyHz, 110.4 * Math.sqrt(1 + 3e-4)))).toBeLessThan(2 * read.sigmaCents);
  expect(read.sigmaCents).toBeLessThan(2);
});

const heard = (...offs: number[]): ToneReading[] =>
  offs.map((c) => ({ frequencyHz: 440 * 2 ** (c / 1200), sigmaCents: 0.2, limit: 'tone' }));

test('it ends: used from two, agreed on from three, and after five it says why it stays doubtful', () => {
  const told = (offs: number[], of: Parameters<typeof repeatsTold>[3] = 'keyboard') => {
    const average = averageTone(heard(...offs))!;
    return repeatsTold(average, offs.length, 0, of).join(' ');
  };
  expect(averageTone(heard(1))).toBeUndefined();
  expect(told([0, 0.2])).toBe('You can use it now. Another repeat makes it surer.');
  expect(averageTone(heard(0, 0.2))!.verdict).toBeUndefined();
  expect(told([0, 0.2, -0.1])).toMatch(/^3 repeats agree within 0\.2 cents/);
  expect(averageTone(heard(0, 3, -2, 1))!.verdict).toBeUndefined();
  expect(told([0, 3, -2, 1, -1])).toMatch(
    /^The repeats differ by 1\.9 cents\. Hold the key down.*You can still use it/,
  );
  expect(told([0, 1, 2, 3, 4], 'reed')).toMatch(/^It went \+4\.0 cents from the first to the last\. It is warming up/);
  expect(told([0, 1, 2, 3, 4])).not.toMatch(/[Bb]low/);
  const room = heard(0, 0, 0, 0, 0).map((r) => ({ ...r, sigmaCents: 2, limit: 'room' as const }));
  expect(averageTone(room)!.verdict).toBe('room');
  // The device's clock is wrong alike in all: repeats do not make it right.
  const sure = Array.from({ length: 5 }, () => ({ frequencyHz: 440, sigmaCents: 0.01, limit: 'clock' as const }));
  expect(averageTone(sure)!.sigmaCents).toBe(0.05);
});
