import { expect, test } from '@playwright/test';
import { mkdirSync } from 'node:fs';
import { DEMONSTRATION } from '../playwright.config';
import { panel } from './bench';

test('the demonstration is opened for the first time, and what it wrote is kept for the tests', async ({ page }) => {
  mkdirSync('.tmp', { recursive: true });
  await page.goto('/demo/bench');
  await expect(page.getByRole('heading', { level: 1, name: 'Requinto, nylon' })).toBeVisible({ timeout: 60_000 });
  await expect(panel(page).getByText('Fallen in all')).toBeVisible();
  await page.context().storageState({ path: DEMONSTRATION, indexedDB: true });
});
