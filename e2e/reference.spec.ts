import { expect, test } from '@playwright/test';
import { addNoise, pluck, randomFrom } from '../src/core/simulate';
import { PLUCK, RATE } from '../testing/recording';
import { addInstrument, instruction, message, typeFigure, writeSound } from './bench';

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

test('a piano from a recording is measured and used, and what the bench tunes to follows it', async ({ page }) => {
  await addInstrument(page, 'Violin');
  await page.goto('/reference');
  await page.getByRole('button', { name: 'A keyboard' }).click();
  await page.getByLabel('WAV file').setInputFiles(writeSound('piano.wav', piano(441.7, 4), RATE));
  await expect(instruction(page)).toHaveText('Press Enter to use it');
  const said = (await page.getByTestId('result').textContent()) ?? '';
  const [, hz, sigma] = /keyboard is at ([\d.]+) Hz ±([\d.]+) cents/.exec(said)!.map(Number);
  expect(Math.abs(1200 * Math.log2(hz! / 441.7))).toBeLessThan(Math.max(0.5, 2 * sigma!));
  await expect(page.getByText('repeats agree within')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(message(page)).toContainText(`A4 is now ${hz!.toFixed(1)} Hz`);
  await page.goto('/bench');
  await expect(instruction(page)).toHaveText(/[Cc]heck all strings/);
  await page.keyboard.press('Enter');
  // E5 stands a fifth above the A.
  await typeFigure(page, `${(hz! * 2 ** (7 / 12)).toFixed(2)} Hz`);
  await expect(message(page)).toContainText(/E5: [+−]?0\.[012]/);
});
