import { expect, test } from '@playwright/test';
import { collectErrors, follow, instruction, message, openDemo } from './bench';

test('a whole round by ear on the requinto, by the pedal: judged first, read then, both kept', async ({ page }) => {
  test.setTimeout(120_000);
  const errors = collectErrors(page);
  await openDemo(page);
  await page.goto('/demo/ear/requinto');
  await expect(instruction(page)).toContainText('Enter begins');
  // The school whose worst string is the best is offered; another is one key away.
  await expect(page.getByRole('button', { name: 'From one string' })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('PageDown');
  await expect(instruction(page)).toHaveText('Pluck A2, the others still');
  await page.keyboard.press('p');
  await expect(instruction(page)).toContainText('Let both ring');
  // While it is tuned by ear nothing is shown of where it stands.
  await expect(page.getByTestId('live-cents')).toHaveText('–');
  await page.keyboard.press('ArrowUp');
  await follow(page, /^Enter begins/);
  await expect(message(page)).toContainText('The round is done');
  const ear = page.getByRole('list', { name: 'Your ear' });
  await expect(ear).toContainText(/1:1: you stop [−+]?\d+\.\d from beatless ±\d+\.\d cents \(5 times\)/);
  await expect(page.getByText(/as your ear was read/)).toBeVisible();
  await page.goto('/demo/log');
  // Two checkpoints for each of five strings.
  await expect(page.getByText(/by ear against .*A2 \(\d+:\d+\), read/)).toHaveCount(10);
  expect(errors).toEqual([]);
});

test('a bowed instrument is offered what it can do, and told what it cannot', async ({ page }) => {
  await openDemo(page);
  await page.goto('/demo/ear/viola');
  await expect(page.getByRole('button', { name: 'Chain' })).toBeDisabled();
  await page.getByRole('button', { name: 'Fifths' }).click();
  await expect(page.getByRole('list', { name: 'Steps' })).toContainText('D4 open against A4 open: fifth');
});

test('two strings brought to a stop while they ring: beats, and which way, while the tuner is turned', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await openDemo(page);
  await page.goto('/demo/ear/requinto');
  await page.keyboard.press('PageDown');
  await follow(page, /^Let both ring/);
  // Not shown unless it is asked for; the octave of the two checkpoints.
  await expect(page.getByTestId('beats')).toHaveCount(0);
  await page.keyboard.press('w');
  await page.keyboard.press('o');
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('p');
  await expect(page.getByTestId('beats-way')).toContainText('↑ up', { timeout: 5000 });
  const before = Number(await page.getByTestId('beats-figure').textContent());
  for (let i = 0; i < 16; i++) {
    const way = (await page.getByTestId('beats-way').count()) ? await page.getByTestId('beats-way').textContent() : '';
    if (way === 'right') break;
    await page.keyboard.press(way?.startsWith('↑') ? 'ArrowUp' : way?.startsWith('↓') ? 'ArrowDown' : 'p');
    await page.waitForTimeout(1300);
  }
  await expect(page.getByTestId('beats-way')).toHaveText('right');
  expect(Number(await page.getByTestId('beats-figure').textContent())).toBeLessThan(before);
});

test('the checkpoints are read two strings at a time and put together: who is off, and whether they agree', async ({
  page,
}) => {
  test.setTimeout(180_000);
  const errors = collectErrors(page);
  await openDemo(page);
  await page.goto('/demo/ear/requinto');
  await expect(instruction(page)).toContainText('Enter begins');
  await page.keyboard.press('c');
  await expect(instruction(page)).toContainText(/^Sound A2/);
  await follow(page, /^Enter begins/);
  await expect(page.getByTestId('net-words')).toContainText(/All of them agree\. Move C4 up 1[2-5]\.\d/);
  await page.goto('/demo/log');
  await expect(page.getByText(/with .*, A2 \(\d+:\d+\): .* beats a second/)).toHaveCount(10);
  expect(errors).toEqual([]);
});
