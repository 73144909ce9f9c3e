import { expect, test } from '@playwright/test';
import { openDemo } from './bench';

test('a drone at the string’s place, an octave or two up where it is low', async ({ page }) => {
  await openDemo(page);
  await page.goto('/demo/tuning/baritone');
  await expect(page.getByRole('button', { name: 'Sound B3' })).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByTestId('tone-note')).toContainText('123.47 Hz, an octave above the string');
  await page.keyboard.press('t');
  await expect(page.getByRole('button', { name: 'Sounding B1' })).toBeVisible();
  await page.keyboard.press('t');
  await expect(page.getByRole('button', { name: 'Sound B1' })).toBeVisible();
});
