import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { addInstrument, message, openDemo, recordCount, typeFigure } from './bench';

async function download(page: Page, button: string): Promise<string> {
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: button }).click()]);
  return readFileSync(await file.path(), 'utf8');
}

async function typeReading(page: Page, text: string): Promise<void> {
  await typeFigure(page, text);
  await expect(message(page)).toContainText('kept');
}

test('export, import into an empty profile, export again: the same records; importing twice changes nothing', async ({
  page,
  browser,
}) => {
  await openDemo(page);
  const count = await recordCount(page, '/demo');
  const first = JSON.parse(await download(page, 'Export everything (JSON)')) as { records: unknown[] };
  expect(first.records).toHaveLength(count);

  const other = await (await browser.newContext()).newPage();
  expect(await recordCount(other)).toBe(0);
  const file = { name: 'log.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(first)) };
  await other.getByLabel('JSON export').setInputFiles(file);
  await expect(other.getByTestId('log-message')).toHaveText(
    `log.json: ${count} new records kept, 0 were here already.`,
  );
  await other.getByLabel('JSON export').setInputFiles(file);
  await expect(other.getByTestId('log-message')).toHaveText(
    `log.json: 0 new records kept, ${count} were here already.`,
  );
  await other.reload();
  const second = JSON.parse(await download(other, 'Export everything (JSON)')) as { records: unknown[] };
  expect(second.records).toEqual(first.records);
  await other.goto('/bench');
  await expect(other.getByRole('heading', { level: 1, name: 'Requinto, nylon' })).toBeVisible();

  const csv = await download(page, 'Export readings (CSV)');
  expect(csv.split('\r\n')[0]).toContain('offset (cents)');
  expect(csv.split('\r\n').length).toBeGreaterThan(200);
});

test('a faulty file is refused whole, with the place of its first fault', async ({ page }) => {
  await addInstrument(page, 'Ukulele');
  const count = await recordCount(page);
  const good = JSON.parse(await download(page, 'Export everything (JSON)')) as { records: { id: string }[] };
  const bad = {
    ...good,
    records: [...good.records.map((r) => ({ ...r, id: `x${r.id}` })), { type: 'reading', id: 'y' }],
  };
  const put = (name: string, text: string) =>
    page.getByLabel('JSON export').setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
  await put('bad.json', JSON.stringify(bad));
  await expect(page.getByTestId('log-message')).toContainText(`bad.json: Record ${bad.records.length} `);
  await expect(page.getByTestId('log-message')).toContainText('Nothing was imported.');
  await put('broken.json', '{"format":');
  await expect(page.getByTestId('log-message')).toContainText('broken.json: The file is no JSON');
  await page.reload();
  await expect(page.getByTestId('record-count')).toHaveText(String(count));
});

test('two tabs on the same data do not lose each other’s records', async ({ page, context }) => {
  await addInstrument(page, 'Ukulele');
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByRole('heading', { level: 1, name: 'Ukulele' })).toBeVisible();
  await page.keyboard.press('Enter');
  await typeReading(page, '-5');
  await other.keyboard.press('2');
  await typeReading(other, '-7');
  // The other tab's reading shows without a reload.
  await expect(page.getByRole('button', { name: /String 2, E4, settling, −7.0 cents/ })).toBeVisible();
  await expect(other.getByRole('button', { name: /String 1, A4, settling, −5.0 cents/ })).toBeVisible();
  expect(await recordCount(page)).toBe(await recordCount(other));
});

test('a reading kept in one tab is reckoned with in another: its worker hears of it too', async ({ page, context }) => {
  await addInstrument(page, 'Ukulele');
  const other = await context.newPage();
  await other.goto(page.url().replace('/bench/', '/settling/'));
  const first = other.getByRole('complementary').getByRole('listitem').first();
  await expect(first).toContainText('Not read yet.');
  await page.keyboard.press('Enter');
  await typeReading(page, '-5');
  await expect(first).toContainText('Not enough readings yet');
  // A correction of the log reaches it as well.
  await page.keyboard.press('z');
  await expect(first).toContainText('Not read yet.');
});

test('when the browser refuses to write, the record is held in memory, said so, and exported', async ({ page }) => {
  await addInstrument(page, 'Ukulele');
  const count = 1 + 4;
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('no room left', 'QuotaExceededError');
    };
  });
  await page.keyboard.press('Enter');
  await typeFigure(page, '-9');
  await expect(message(page)).toContainText('is held in memory: export the log now');
  await expect(page.getByRole('alert').filter({ hasText: '2 records are held in memory only' })).toBeVisible();
  await page.getByRole('link', { name: 'Log' }).click();
  const text = await download(page, 'Export everything (JSON)');
  const file = JSON.parse(text) as { records: { type: string; cents?: number }[] };
  // The reading, and the pass that it belongs to.
  expect(file.records).toHaveLength(count + 2);
  expect(file.records.find((r) => r.type === 'reading')?.cents).toBe(-9);
});
