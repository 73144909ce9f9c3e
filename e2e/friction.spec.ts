import { expect, test } from '@playwright/test';
import { collectErrors, follow, instruction, message, openDemo } from './bench';

test('the baritone’s F#3 binds: measured, its slot lubricated, measured again, by keys alone', async ({ page }) => {
  test.setTimeout(120_000);
  const errors = collectErrors(page);
  await openDemo(page);
  await page.goto('/demo/friction/baritone');
  await expect(instruction(page)).toHaveText('Enter: measure B3');
  await page.keyboard.press('2');
  await expect(instruction(page)).toHaveText('Enter: measure F#3');
  await follow(page, /next string/);
  await expect(message(page)).toContainText('between its limits');
  const row = page.getByRole('list', { name: 'Friction by string' }).getByRole('listitem').nth(1);
  const figure = async () => Number((await row.innerText()).match(/([\d.]+) ±/)![1]);
  const before = await figure();
  // Nut and tree together hold 21 cents; what a bend and a press reach of that.
  expect(before).toBeGreaterThan(12);
  expect(before).toBeLessThan(24);
  await expect(page.getByText(/You can lose \d+ cents at the F#3/)).toBeVisible();
  await page.keyboard.press('l');
  await expect(message(page)).toContainText('Enter measures it again');
  await follow(page, /next string/);
  await expect(message(page)).toContainText('between its limits');
  expect(await figure()).toBeLessThan(before / 4);
  await expect(row).toContainText(`before ${before.toFixed(1)}`);
  await expect(page.getByText(/Lubricated: less by [\d.]+ ±[\d.]+ cents\./)).toBeVisible();
  await page.goto('/demo/log');
  await expect(page.getByText(/F#3: lubricated/).first()).toBeVisible();
  expect(errors).toEqual([]);
});

test('tricks are read, not believed: a press in the wings, and bending all strings before the show', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await openDemo(page);
  await page.goto('/demo/friction/baritone');
  await expect(instruction(page)).toHaveText('Enter: measure B3');
  await page.keyboard.press('2');
  await expect(instruction(page)).toHaveText('Enter: measure F#3');
  await page.keyboard.press('u');
  await follow(page, /^Enter: measure/);
  const read = page.getByRole('list', { name: 'Tricks as read' });
  await expect(read).toContainText(
    /F#3 raised by a press into the peg box: \+\d+\.\d cents, in the two minutes after −\d/,
  );
  await page.keyboard.press('g');
  await expect(instruction(page)).toHaveText('Pluck it open');
  await follow(page, /^Enter: measure/);
  await expect(message(page)).toContainText('bring them up from below');
  await expect(read.getByRole('listitem').filter({ hasText: 'bent full' })).toHaveCount(6);
});

test('an instrument without a nut has no friction to measure there, and its address says why', async ({ page }) => {
  await openDemo(page);
  await page.goto('/demo/friction/kantele');
  await expect(page.getByText('there is no nut to bind in')).toBeVisible();
});
