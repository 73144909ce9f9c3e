import { expect, test } from '@playwright/test';
import { addInstrument } from './bench';

test('a backup is restored on a fresh profile: the same entries, and the same again changes nothing', async ({
  page,
  browser,
}) => {
  await addInstrument(page, 'Six-string guitar, steel');
  await page.goto('/log');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save a backup file' }).click(),
  ]);
  await expect(page.getByTestId('backup-message')).toContainText('-backup.json');
  const path = await download.path();
  const entries = await page.getByTestId('record-count').textContent();
  const fresh = await (await browser.newContext()).newPage();
  await fresh.goto(new URL('/log', page.url()).href);
  const file = fresh.getByLabel('JSON export');
  await file.setInputFiles(path);
  await expect(fresh.getByTestId('log-message')).toContainText(`${entries} new entries`);
  // And one that says what came.
  await expect(fresh.getByTestId('record-count')).toHaveText(String(Number(entries) + 1));
  await file.setInputFiles(path);
  await expect(fresh.getByTestId('log-message')).toContainText('0 new entries');
});
