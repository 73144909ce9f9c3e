import { expect, test } from '@playwright/test';
import { collectErrors, follow, instruction, message, openDemo } from './bench';

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
    /everything stands \+10\d\.\d: is a capo on fret 1\?/,
  );
});
