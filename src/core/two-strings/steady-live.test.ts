import { createSteadyListener, type SteadyMoment } from '.';
import { octaveStretch } from '../reference';
import { randomFrom } from '../simulate';

const RATE = 24000;
/** Tones one after another with quiet between them, in blocks as a microphone gives them. */
function listen(tones: { hz: number; lastsS: number }[]) {
  const listener = createSteadyListener(RATE, 440, 'reed');
  const random = randomFrom(5);
  const told: (SteadyMoment | string | null)[] = [];
  const quiet = { hz: 0, lastsS: 0.8 };
  for (const { hz, lastsS } of tones.flatMap((t) => [quiet, t]).concat(quiet))
    for (let i = 0; i < lastsS * RATE; i += 960) {
      const block = Float32Array.from({ length: 960 }, (_, k) => {
        const t = (i + k) / RATE;
        const tone =
          hz === 0 ? 0 : [1, 0.5, 0.3].reduce((s, a, n) => s + a * Math.sin(2 * Math.PI * hz * (n + 1) * t), 0);
        return 0.1 * Math.min(1, t / 0.05) * tone + 2e-4 * random.normal();
      });
      told.push(...listener.push(block));
    }
  return told;
}
const done = (told: (SteadyMoment | string | null)[]) =>
  told.filter((m): m is SteadyMoment => typeof m === 'object' && m !== null && m.done);

test('each tone that is held is read once, to a hundredth of a cent, and seen while it sounds', () => {
  const told = listen([
    { hz: 441.3, lastsS: 3 },
    { hz: 441.35, lastsS: 6 },
  ]);
  const read = done(told);
  expect(read).toHaveLength(2);
  [441.3, 441.35].forEach((hz, i) => expect(Math.abs(1200 * Math.log2(read[i]!.frequencyHz / hz))).toBeLessThan(0.02));
  expect(told.filter((m) => typeof m === 'object' && m !== null).length).toBeGreaterThan(6);
});

test('what is too short, or another note, is no reading', () => {
  expect(listen([{ hz: 440, lastsS: 0.4 }])).toContainEqual(expect.stringMatching(/[Tt]oo short/));
  const other = listen([{ hz: 523, lastsS: 3 }]);
  expect(done(other)).toEqual([]);
  expect(other).toContainEqual(expect.stringMatching(/another note/));
});

test('a keyboard’s octaves: pure, and stretched', () => {
  const at = (octaves: number, stretch: number) => ({
    octaves,
    frequencyHz: 441.3 * 2 ** octaves * 2 ** ((stretch * octaves) / 1200),
  });
  expect(octaveStretch([at(0, 0), at(1, 0), at(-1, 0)])).toBeCloseTo(0, 9);
  expect(octaveStretch([at(0, 1.4), at(1, 1.4), at(-2, 1.4)])).toBeCloseTo(1.4, 9);
  expect(octaveStretch([at(0, 0)])).toBeUndefined();
});
