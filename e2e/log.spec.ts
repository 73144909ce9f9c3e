import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { addInstrument, message, recordCount, typeFigure } from './bench';

async function download(page: Page, button: string): Promise<string> {
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: button }).click()]);
  return readFileSync(await file.path(), 'utf8');
}

async function typeReading(page: Page, text: string): Promise<void> {
  await typeFigure(page, text);
  await expect(message(page)).toContainText('saved');
}

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
  const first = other.getByRole('complementary').getByRole('rowgroup').nth(1);
  await first.getByRole('button', { name: /^More about/ }).click();
  await expect(first).toContainText('Not read yet.');
  await page.keyboard.press('Enter');
  await typeReading(page, '-5');
  await expect(first).toContainText('Too few readings');
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
  await expect(message(page)).toContainText('is in memory only: export it now');
  await expect(page.getByRole('alert').filter({ hasText: '2 entries are in memory only' })).toBeVisible();
  await page.getByRole('link', { name: 'History' }).click();
  const text = await download(page, 'Export everything (JSON)');
  const file = JSON.parse(text) as { records: { type: string; cents?: number }[] };
  // The reading, and the pass that it belongs to.
  expect(file.records).toHaveLength(count + 2);
  expect(file.records.find((r) => r.type === 'reading')?.cents).toBe(-9);
});
