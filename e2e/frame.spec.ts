import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { appendFileSync, cpSync } from 'node:fs';
import { devices, expect, test } from '@playwright/test';
import { instruction, message, openDemo, panel } from './bench';

const OWN_PORT = 4188;

test('a newer version is told and waits; it is installable; the screen stays awake while it listens', async ({
  page,
  request,
}) => {
  // A build of its own, served beside: nobody else meets the newer version.
  const newer = test.info().outputPath('newer');
  for (const built of ['dist', 'dist-node']) cpSync(built, `${newer}/${built}`, { recursive: true });
  const server = spawn(process.execPath, [`${newer}/dist-node/server/main.js`], {
    env: { ...process.env, PORT: String(OWN_PORT) },
  });
  try {
    await once(server.stdout, 'data');
    await page.addInitScript({
      content: `window.awake = 0; navigator.wakeLock.request = async () => { window.awake++; return { release: async () => { window.awake--; } }; };`,
    });
    await page.goto(`http://localhost:${OWN_PORT}/demo/bench`);
    await expect(panel(page)).toBeVisible();
    await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
    await page.keyboard.press(' ');
    await expect.poll(() => page.evaluate('window.awake')).toBe(1);
    appendFileSync(`${newer}/dist/sw.js`, '\n// newer\n');
    await page.evaluate(async () => (await navigator.serviceWorker.ready).update());
    const told = page.getByText('A new version is ready');
    await expect(told).toContainText('Reload when you have finished');
    await page.keyboard.press(' ');
    await expect(told).toContainText('Reload when you like');
    expect(await page.evaluate('window.awake')).toBe(0);
    await Promise.all([page.waitForEvent('load'), told.getByRole('button', { name: 'Reload' }).click()]);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(told).toHaveCount(0);
  } finally {
    server.kill();
  }
  const manifest = await request.get('/app.webmanifest');
  const { icons } = (await manifest.json()) as { icons: { src: string }[] };
  for (const { src } of icons) expect((await request.get(src)).status()).toBe(200);
});

test.describe('by touch on a phone', () => {
  test.use({ viewport: devices['Pixel 5'].viewport, hasTouch: true });
  test('a check pass and the plan', async ({ page }) => {
    await openDemo(page);
    const bar = page.getByRole('toolbar');
    const header = await page.getByRole('banner').boundingBox();
    expect(header!.height).toBeLessThanOrEqual(96);
    await bar.getByRole('button', { name: 'Start check' }).tap();
    await expect(instruction(page)).toContainText(/pluck A4/i);
    await expect(instruction(page)).toBeInViewport();
    await expect(page.getByTestId('live-cents')).toBeInViewport();
    for (const note of ['A4', 'E4']) {
      // Sounded when it is asked for, and again where a busy machine did not hear it.
      await expect(async () => {
        if (new RegExp(`pluck ${note}|is it ${note} gone`, 'i').test((await instruction(page).textContent()) ?? ''))
          await page.getByRole('button', { name: 'Pluck', exact: true }).tap();
        await expect(message(page)).toContainText(new RegExp(`${note}: .*as found`), { timeout: 8000 });
      }).toPass();
    }
    await bar.getByRole('button', { name: 'Take back' }).tap();
    await expect(message(page)).toContainText('taken back');
    await bar.getByRole('button', { name: 'More' }).tap();
    await page.getByRole('menuitem', { name: 'Type a figure from another device' }).tap();
    await expect(page.getByLabel('Cents from the target, or Hz')).toBeFocused();
    await page.keyboard.press('Escape');
    // What is tapped is large enough, on a phone.
    for (const button of await bar.getByRole('button').all())
      expect((await button.boundingBox())!.height).toBeGreaterThanOrEqual(44);
    await page.getByRole('link', { name: 'Show', exact: true }).tap();
    await page.getByRole('button', { name: /^The show/ }).tap();
    await page.getByLabel('Length, min').fill('60');
    await page.getByRole('button', { name: 'Plan it' }).tap();
    await expect(page.getByText('60 min within')).toBeVisible();
    await page.getByRole('button', { name: /^Go to it/ }).tap();
    await expect(panel(page)).toBeVisible();
    expect(await page.evaluate(() => window.scrollY)).toBe(0);
  });
});

test('an instrument of yours stands on the bench after eight presses, and the pedal works at once', async ({
  page,
}) => {
  await page.goto('/bench');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('A new string falls');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('searchbox')).toBeFocused();
  await page.keyboard.type('viola');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Viola');
  await expect(panel(page)).toBeFocused();
});
