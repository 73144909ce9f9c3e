import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { writeLogFile } from '../src/core/exchange';
import { bigLog } from '../bench/size/big-log';
import { addInstrument, message, recordCount, typeFigure } from './bench';

async function download(page: Page, button: string): Promise<{ records: { type: string; cents?: number }[] }> {
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: button }).click()]);
  return JSON.parse(readFileSync(await file.path(), 'utf8')) as { records: { type: string; cents?: number }[] };
}

const firstInstrument = async (page: Page) =>
  (await page.getByRole('link', { name: /^Ukulele/ }).getAttribute('href'))!.split('/').pop()!;

/** Works on the page's own database, as something outside of the app would. */
const meddle = (page: Page, name: string, storeName: string, items: [string, unknown][], clear = false) =>
  page.evaluate(
    async ([database, store, list, empty]) => {
      const open = await new Promise<IDBDatabase>((resolve, reject) => {
        const request = indexedDB.open(database);
        request.onsuccess = () => resolve(request.result);
        request.onerror = () => reject(request.error!);
      });
      await new Promise((resolve) => {
        const transaction = open.transaction(store, 'readwrite');
        if (empty) transaction.objectStore(store).clear();
        for (const [key, value] of list) transaction.objectStore(store).put(value, key);
        transaction.oncomplete = resolve;
      });
      open.close();
    },
    [name, storeName, items, clear] as const,
  );

test('a browser that does not open its store says so; what is written is held and exported, and nothing claims more', async ({
  page,
}) => {
  await page.addInitScript(() => {
    IDBFactory.prototype.open = () => {
      throw new DOMException('The user denied permission to access the database.', 'SecurityError');
    };
  });
  await page.goto('/add');
  await expect(page.getByRole('alert').filter({ hasText: 'does not open its storage' })).toBeVisible();
  await page.getByRole('button', { name: 'Ukulele', exact: true }).click();
  await page.getByRole('button', { name: 'Add it' }).click();
  // It is on the bench, once, and nothing claims that it is kept.
  await expect(page.getByRole('heading', { level: 1, name: 'Ukulele' })).toBeVisible();
  await expect(page.getByRole('alert').filter({ hasText: 'in memory only' })).toBeVisible();
  await page.getByRole('link', { name: 'History' }).click();
  await expect(page.getByTestId('record-count')).toHaveText('5');
  expect((await download(page, 'Export everything (JSON)')).records).toHaveLength(5);
  await page.reload();
  await expect(page.getByTestId('record-count')).toHaveText('0');
});

test('no room on the disk: held and said so; with room again all of it is kept', async ({ page }) => {
  await addInstrument(page, 'Ukulele');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'String 1, as found' })).toBeVisible();
  await page.evaluate(() => {
    const real = IDBObjectStore.prototype.put;
    IDBObjectStore.prototype.put = function (...rest) {
      if ((window as unknown as { room?: boolean }).room) return real.apply(this, rest);
      throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
    };
  });
  await typeFigure(page, '-9');
  await expect(message(page)).toContainText('It is in memory only: export it now');
  await expect(page.getByRole('alert').filter({ hasText: 'in memory only' })).toBeVisible();
  await page.evaluate(() => Object.assign(window, { room: true }));
  await typeFigure(page, '-8');
  await expect(message(page)).toContainText('saved');
  await expect(page.getByText('in memory only')).toHaveCount(0);
  await page.reload();
  await expect(page.getByRole('button', { name: /String 1, A4, settling, −9.0 cents/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /String 2, E4, settling, −8.0 cents/ })).toBeVisible();
});

test('stored pieces that cannot be read are set aside; a log that cannot be shown at all is given out as it lies', async ({
  page,
}) => {
  await addInstrument(page, 'Ukulele');
  await meddle(page, 'slow-anchor-own', 'records', [['k1', 'torn']]);
  expect(await recordCount(page)).toBe(5);
  await expect(
    page.getByRole('alert').filter({ hasText: '1 stored piece of this log could not be read' }),
  ).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export what could not be read' }).click(),
  ]);
  expect(readFileSync(await file.path(), 'utf8')).toContain('torn');

  // What a view cannot draw is said by that view, and the others go on.
  await page.goto('/bench');
  const instrumentId = await firstInstrument(page);
  const base = { version: 2, atMs: Date.now(), zoneMin: 0, instrumentId };
  const torn = { ...base, id: 't', type: 'instrument', name: 'Ukulele', family: 'own', strings: [{ stringId: 's1' }] };
  await meddle(page, 'slow-anchor-own', 'records', [['k3', [torn]]]);
  await page.reload();
  await expect(page.getByRole('heading', { name: 'This view has failed' })).toBeVisible();
  expect((await download(page, 'Export everything as it is stored')).records).toHaveLength(6);
  await page.getByRole('link', { name: 'Show' }).click();
  await expect(page.getByRole('heading', { name: 'This view has failed' })).toHaveCount(0);

  // Pieces that look like records and make no bench are found out too.
  const broken = { id: 'b', version: 2, atMs: 1, zoneMin: 0, type: 'instrument', instrumentId: 'b', name: 'B' };
  await meddle(page, 'slow-anchor-own', 'records', [['k2', [broken]]]);
  await page.goto('/log');
  await expect(page.getByRole('alert').filter({ hasText: 'stored pieces of this log' })).toBeVisible();
  await page.goto('/bench');
  await expect(page.getByRole('heading', { level: 1, name: 'Ukulele' })).toBeVisible();
});

test('a long file shows how far it is and can be called off; readings of unknown instruments are told', async ({
  page,
}) => {
  await page.goto('/log');
  const log = bigLog(20, 6, 200, Date.now());
  const put = (name: string, records: typeof log) =>
    page.getByLabel('JSON export').setInputFiles({
      name,
      mimeType: 'application/json',
      buffer: Buffer.from(writeLogFile(records, Date.now())),
    });
  await put('long.json', log);
  await expect(page.getByRole('progressbar', { name: 'Checking long.json' })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByTestId('log-message')).toHaveText('long.json: cancelled. Nothing was imported.');
  const strays = log.filter((r) => r.type === 'reading').slice(0, 7);
  await put('strays.json', strays);
  await expect(page.getByTestId('log-message')).toHaveText(
    'strays.json: 7 new entries; 0 were here already. 7 readings belong to instruments that are not here.',
  );
  // And one that says what came.
  await expect(page.getByTestId('record-count')).toHaveText('8');
});

test('by plain http from another machine: typed figures are kept, and the microphone is one sentence with the way out', async ({
  page,
}) => {
  await page.goto('http://barge.test:4187/add');
  expect(await page.evaluate(() => window.isSecureContext)).toBe(false);
  await page.getByRole('button', { name: 'Violin', exact: true }).click();
  await page.getByRole('button', { name: 'Add it' }).click();
  await page.getByRole('button', { name: 'Listen' }).click();
  await expect(message(page)).toContainText('may not use a microphone over plain http: open it as localhost');
  await page.keyboard.press('Enter');
  await typeFigure(page, '-9');
  await expect(message(page)).toContainText('E5: −9.0 ±1.6 cents, saved as found');
  await page.reload();
  await expect(page.getByRole('button', { name: /String 1, E5, settling, −9.0 cents/ })).toBeVisible();
});

test('settings that never answer and a tab that may keep nothing: the bench opens and works', async ({ page }) => {
  await page.addInitScript(() => {
    const open = indexedDB.open.bind(indexedDB);
    indexedDB.open = (name, version) =>
      name === 'slow-anchor-settings' ? ({} as IDBOpenDBRequest) : open(name, version);
    Object.defineProperty(window, 'sessionStorage', {
      get: () => {
        throw new DOMException('blocked', 'SecurityError');
      },
    });
  });
  await addInstrument(page, 'Ukulele');
  await page.keyboard.press('Enter');
  await typeFigure(page, '-9');
  await expect(message(page)).toContainText('A4: −9.0 ±1.6 cents, saved as found');
});

test.describe('without an offline copy, which would still have it', () => {
  test.use({ serviceWorkers: 'block' });
  test('a view whose file is gone says reload, and gives the log out', async ({ page }) => {
    await addInstrument(page, 'Ukulele');
    await page.route(/assets\/LogView/, (route) => route.fulfill({ status: 404, body: 'Not found.' }));
    await page.getByRole('link', { name: 'History' }).click();
    await expect(page.getByRole('heading', { name: 'Reload to go on: nothing is lost' })).toBeVisible();
    expect((await download(page, 'Export the log first')).records).toHaveLength(5);
    await page.unroute(/assets\/LogView/);
    await page.getByRole('button', { name: 'Reload' }).click();
    await expect(page.getByTestId('record-count')).toHaveText('5');
  });
});
