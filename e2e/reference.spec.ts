import { expect, test } from '@playwright/test';
import { collectErrors, follow, instruction, message, openDemo, withMicrophone } from './bench';
import { randomFrom } from '../src/core/simulate';

test('the cabin’s harmonium is measured by the pedal, used from now on, and changes nothing that was read', async ({
  page,
}) => {
  test.setTimeout(120_000);
  const errors = collectErrors(page);
  await openDemo(page);
  await page.goto('/demo/reference');
  await expect(instruction(page)).toHaveText('Enter: measure the fork');
  await page.keyboard.press('3');
  await follow(page, /^Enter: use it/);
  const said = await page.getByTestId('result').innerText();
  const hz = Number(/stands at ([\d.]+) Hz/.exec(said)![1]);
  expect(Math.abs(1200 * Math.log2(hz / 441.3))).toBeLessThan(0.5);
  await page.keyboard.press('PageDown');
  await expect(message(page)).toContainText('In force from now on: 441.3 Hz');
  await expect(page.getByRole('button', { name: /Reference A4/ })).toContainText('441.3 Hz');
  await page.goto('/demo/log');
  await expect(page.getByText(/Reference A4 441\.3 Hz \(keyboard, ±0\.\d\d cents\)/)).toBeVisible();
  expect(errors).toEqual([]);
});

test('a standard is one press, and strings that stand off together are said as such', async ({ page }) => {
  await openDemo(page);
  await page.goto('/demo/reference');
  await page.getByRole('button', { name: '415 Hz' }).click();
  await expect(page.getByRole('button', { name: /Reference A4/ })).toContainText('415.0 Hz');
  // Everything that was tuned to 440 stands a half step above it now.
  await expect(page.getByRole('list', { name: 'What stands off together' })).toContainText(
    /everything stands \+9\d\.\d: is a capo on fret 1\?/,
  );
});

test('a fork before the microphone: a long average to a tenth of a cent, and used', () => {
  test.setTimeout(120_000);
  const RATE = 48000;
  const HZ = 439.62;
  // Struck, with its clang tone that dies at once, and damped before it is struck again.
  const random = randomFrom(3);
  const samples = Float32Array.from({ length: 5 * RATE }, (_, i) => {
    const t = i / RATE - 0.5;
    const noise = 2e-4 * random.normal();
    if (t < 0 || t > 3.4) return noise;
    const tone = (hz: number, decayS: number) => Math.sin(2 * Math.PI * hz * t) * Math.exp(-t / decayS);
    return 0.2 * (tone(HZ, 5) + 0.4 * tone(6.27 * HZ, 0.12)) + noise;
  });
  return withMicrophone('fork.wav', samples, RATE, async (page) => {
    await page.goto('/reference');
    await expect(instruction(page)).toHaveText('Enter: measure the fork');
    await page.keyboard.press('1');
    await expect(instruction(page)).toHaveText('Enter: use it', { timeout: 90_000 });
    const said = await page.getByTestId('result').innerText();
    const [, hz, sigma] = /stands at ([\d.]+) Hz ±([\d.]+) cents/.exec(said)!.map(Number);
    expect(Math.abs(1200 * Math.log2(hz! / HZ))).toBeLessThan(0.4);
    expect(sigma!).toBeLessThanOrEqual(0.1);
    await page.keyboard.press('PageDown');
    await expect(page.getByRole('button', { name: /Reference A4/ })).toContainText('439.6 Hz');
  });
});

test('the harmonium’s octaves are read too, and its stretch told', async ({ page }) => {
  test.setTimeout(120_000);
  await openDemo(page);
  await page.goto('/demo/reference');
  await expect(instruction(page)).toHaveText('Enter: measure the fork');
  await page.keyboard.press('3');
  await follow(page, /^Enter: use it/);
  await page.getByLabel('Another device shows it at').fill('1.2');
  await expect(page.getByTestId('other-device')).toHaveText(': it is set to 441.0 Hz.');
  // Out of the field: its letters are not keys.
  await page.getByLabel('Another device shows it at').blur();
  await page.keyboard.press('s');
  await expect(instruction(page)).toHaveText('Hold its A3 down');
  await follow(page, /^Enter: use it/);
  await expect(page.getByTestId('stretch')).toContainText(/octaves are 0\.[789] cents wider than pure, by 5 As/);
});
