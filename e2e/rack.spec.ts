import { expect, test } from '@playwright/test';
import { addInstrument, collectErrors, openDemo } from './bench';

test('three instruments are chosen on the rack and walked to by the pedal; where the walk stands is said', async ({
  page,
}) => {
  const errors = collectErrors(page);
  await openDemo(page);
  await page.goto('/demo/rack');
  for (const name of ['Viola', 'Kantele, 11 strings', 'Requinto, nylon'])
    await page.getByRole('checkbox', { name: `Choose ${name}` }).check();
  await page.getByRole('button', { name: 'Instrument', exact: true }).click();
  await page.keyboard.press('PageDown');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Kantele, 11 strings');
  await expect(page.getByTestId('walk')).toHaveText('Walk: 1 of 3, then Requinto, nylon');
  await page.keyboard.press('.');
  await expect(page.getByTestId('walk')).toHaveText('Walk: 2 of 3, then Viola');
  await page.reload();
  await expect(page.getByTestId('walk')).toHaveText('Walk: 2 of 3, then Viola');
  await page.keyboard.press('.');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Viola');
  expect(errors).toEqual([]);
});

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

test('a list with three faults is told line by line and not taken; mended it comes in', async ({ page }) => {
  await page.goto('/inventory');
  const list = (lines: string) => ({
    name: 'school.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`Name,Kind,Owner,Place,Strung\n${lines}`),
  });
  const input = page.getByLabel('List of instruments');
  await input.setInputFiles(list('Viola 1,Viola,School,Room 2,2030-01-01\nViola 1,Viola,,,\nBass,steam organ,,,\n'));
  const faults = page.getByRole('region', { name: 'What is to be mended' });
  await expect(faults.getByRole('listitem')).toHaveText([/^line 2/, /^line 3/, /^line 4/]);
  await expect(page.getByRole('button', { name: /^Import \d/ })).toBeDisabled();
  await input.setInputFiles(list('Viola 1,Viola,School,Room 2,2026-01-01\nViola 2,Viola,,,\n'));
  await expect(faults).toHaveCount(0);
  await page.getByRole('button', { name: 'Import 2 instruments' }).click();
  const rows = page.getByRole('table', { name: 'Instruments' }).getByRole('row');
  await expect(rows.filter({ hasText: /Viola [12]/ })).toHaveCount(2);
  await expect(rows.filter({ hasText: 'School' })).toHaveCount(1);
});
