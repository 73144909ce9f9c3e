import { screen } from '@testing-library/react';
import { addNoise, pluck, randomFrom } from '../../../core/simulate';
import { PLUCK, RATE } from '../../../../testing/recording';
import { follow } from '../../../../testing/hand';
import { addInstrument, choose, BENCH_ALONE, openApp, playFile, typeFigure } from '../../../../testing/player';

/** A piano's A4, struck again and again: three stiff strings a note that beat with one another and die. */
function piano(a4Hz: number, strikes: number): Float32Array {
  const random = randomFrom(12);
  const out = new Float32Array(strikes * 3 * RATE);
  for (let k = 0; k < strikes; k++)
    for (const apart of [-0.3, 0, 0.25]) {
      const voice = pluck(
        {
          ...PLUCK,
          frequencyHz: a4Hz * 2 ** (apart / 1200),
          inharmonicity: 7e-4,
          decayS: 1.1,
          glideCents: 0,
          level: 0.12,
        },
        RATE,
        random,
      );
      voice.render(out, Math.round((3 * k + 0.5) * RATE), Math.round((3 * k + 2.6) * RATE), 1);
    }
  addNoise(out, 0.0004, random);
  return out;
}

test('the cabin’s harmonium is measured by the pedal, used from now on, and changes nothing that was read; its octaves tell its stretch', async () => {
  const player = await openApp('/demo/reference', 1, BENCH_ALONE);
  expect(player.says('instruction')).toBe('Press Enter to measure the fork');
  await player.press('3');
  await follow(player, /^Press Enter to use it/);
  const hz = Number(/is at ([\d.]+) Hz/.exec(player.says('result'))![1]);
  expect(Math.abs(1200 * Math.log2(hz / 441.3))).toBeLessThan(0.5);
  await choose(player, screen.getByLabelText(/^Another device shows it at/), '1.2');
  expect(player.says('other-device')).toBe(': it is set to 441.0 Hz.');
  await player.press('s');
  expect(player.says('instruction')).toBe('Hold its A3 down');
  await follow(player, /^Press Enter to use it/);
  expect(player.says('stretch')).toMatch(/octaves are 0\.[789] cents wider than pure \(from 5 As\)/);
  await player.press('PageDown');
  expect(player.says('message')).toContain('A4 is now 441.3 Hz');
  expect(screen.getByRole('button', { name: /Reference A4/ })).toHaveTextContent('441.3 Hz');
  await player.go('/demo/log');
  expect(screen.getByText(/Reference A4 441\.3 Hz \(keyboard, ±0\.\d\d cents\)/)).toBeVisible();
});

test('a standard is one press, and strings that stand off together are said as such', async () => {
  const player = await openApp('/demo/reference');
  await player.click(screen.getByRole('button', { name: '415 Hz' }));
  expect(screen.getByRole('button', { name: /Reference A4/ })).toHaveTextContent('415.0 Hz');
  const own = async (text: string) => {
    await choose(player, screen.getByLabelText(/^Your own A4/), text);
    await player.click(screen.getByRole('button', { name: 'Use this A4' }));
  };
  await own('447,23');
  expect(screen.getByRole('button', { name: /Reference A4/ })).toHaveTextContent('447.2 Hz');
  await own('4');
  expect(player.says('message')).toMatch(/^Give an A4 from/);
  await player.click(screen.getByRole('button', { name: '415 Hz' }));
  // Everything that was tuned to 440 stands a half step above it now.
  const off = () => screen.getByRole('list', { name: 'What stands off together' }).textContent;
  await player.until(
    () => /are about \d+ cents sharper than expected\. Is a capo on fret 1\?/.test(off()),
    20_000,
    'it is said',
  );
});

test('a fork: a long average to a tenth of a cent, and used', async () => {
  const RATE = 48000;
  const HZ = 439.62;
  // Struck again and again, with its clang tone that dies at once, and damped before the next time.
  const random = randomFrom(3);
  const samples = Float32Array.from({ length: 50 * RATE }, (_, i) => {
    const t = ((i / RATE) % 5) - 0.5;
    const noise = 2e-4 * random.normal();
    if (t < 0 || t > 3.4) return noise;
    const tone = (hz: number, decayS: number) => Math.sin(2 * Math.PI * hz * t) * Math.exp(-t / decayS);
    return 0.2 * (tone(HZ, 5) + 0.4 * tone(6.27 * HZ, 0.12)) + noise;
  });
  const player = await openApp('/reference');
  await player.press('1');
  await playFile(player, samples, RATE);
  await player.until(() => player.says('instruction') === 'Press Enter to use it', 60_000, 'enough strokes');
  const [, hz, sigma] = /is at ([\d.]+) Hz ±([\d.]+) cents/.exec(player.says('result'))!.map(Number);
  expect(Math.abs(1200 * Math.log2(hz! / HZ))).toBeLessThan(0.4);
  expect(sigma!).toBeLessThanOrEqual(0.1);
  await player.press('PageDown');
  expect(screen.getByRole('button', { name: /Reference A4/ })).toHaveTextContent('439.6 Hz');
});

test('a piano from a recording is measured and used, and what the bench tunes to follows it', async () => {
  const player = await openApp('/add');
  await addInstrument(player, 'Violin');
  await player.go('/reference');
  await player.click(screen.getByRole('button', { name: /^A keyboard/ }));
  await playFile(player, piano(441.7, 4), RATE);
  await player.sees('instruction', 'Press Enter to use it', 30_000);
  const [, hz, sigma] = /keyboard is at ([\d.]+) Hz ±([\d.]+) cents/.exec(player.says('result'))!.map(Number);
  expect(Math.abs(1200 * Math.log2(hz! / 441.7))).toBeLessThan(Math.max(0.5, 2 * sigma!));
  expect(screen.getByText(/repeats agree within/)).toBeVisible();
  await player.press('Enter');
  expect(player.says('message')).toContain(`A4 is now ${hz!.toFixed(1)} Hz`);
  await player.go('/bench');
  await player.press('Enter');
  // E5 stands a fifth above the A.
  await typeFigure(player, `${(hz! * 2 ** (7 / 12)).toFixed(2)} Hz`);
  expect(player.says('message')).toMatch(/E5: [+−]?0\.[012]/);
});
