import { appendFileSync, readFileSync, writeFileSync } from 'node:fs';
import { devices, expect, test } from '@playwright/test';
import { addInstrument, bringUp, instruction, message, openDemo, panel } from './bench';

test('the instrument in hand is kept from view to view, and the view from instrument to instrument; the keys are the work’s', async ({
  page,
}) => {
  await openDemo(page);
  const rack = page.getByRole('navigation', { name: 'Instruments on the bench' });
  const left = await rack.boundingBox();
  await page.getByRole('link', { name: 'String set', exact: true }).click();
  await expect(page).toHaveTitle('String set, Requinto, nylon · Slow Anchor');
  await rack.getByRole('link', { name: /Viola/ }).click();
  await expect(page).toHaveTitle('String set, Viola · Slow Anchor');
  expect(await rack.boundingBox()).toEqual(left);
  // Off to the plan and back: the viola is still in hand.
  await page.getByRole('link', { name: 'Plan', exact: true }).click();
  await expect(page).toHaveTitle('Plan · Slow Anchor');
  await page.getByRole('link', { name: 'On the bench', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Viola');
  // After a click the pedal works at once.
  await expect(panel(page)).toBeFocused();
  await page.keyboard.press('PageDown');
  await expect(instruction(page)).toContainText('Pluck A4');
  // By keys from instrument to instrument and from view to view; a kantele has no octave view.
  await page.keyboard.press('v');
  await expect(page).toHaveTitle('Settling, Viola · Slow Anchor');
  await page.keyboard.press('v');
  await expect(page).toHaveTitle('Octave, Viola · Slow Anchor');
  for (const name of ['Baritone', 'Bouzouki', 'Kantele']) {
    await page.keyboard.press('.');
    await expect(page.getByRole('heading', { level: 1 })).toContainText(name);
  }
  await expect(page).toHaveTitle('Bench, Kantele, 11 strings · Slow Anchor');
  await expect(page.getByRole('link', { name: 'Octave', exact: true })).toHaveCount(0);
  await page.goto('/demo/octave/kantele');
  await expect(page.getByText('has no fingerboard')).toBeVisible();
  // The map names the keys of this view, and of no other.
  await page.goto('/demo/plan');
  await page.getByRole('heading', { level: 1 }).waitFor();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('To the instrument that is next');
  await expect(page.getByRole('dialog')).not.toContainText('Take back the last kept reading');
});

test('the first screen: pluck, an hour, pluck, bring it up, a forecast, within a minute and on one page; then yours in eight presses', async ({
  page,
}) => {
  const began = Date.now();
  await page.goto('/bench');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('A fresh string falls');
  await expect(instruction(page)).toHaveText('Pluck it');
  await page.keyboard.press('p');
  await expect(message(page)).toContainText('As found', { timeout: 8000 });
  await page.keyboard.press('h');
  await expect(instruction(page)).toHaveText('Pluck it again');
  await page.keyboard.press('p');
  await expect(page.getByTestId('forecast')).toContainText(/Left alone, by \d+:\d\d: −\d+ ±\d+ cents/, {
    timeout: 8000,
  });
  await expect(page.getByTestId('tuner')).toContainText('tuner from the nut', { timeout: 15000 });
  await expect(async () => {
    await bringUp(page);
    await expect(message(page)).toContainText('As left', { timeout: 3000 });
  }).toPass({ timeout: 40000 });
  await expect(instruction(page)).toContainText('Look again');
  expect((Date.now() - began) / 1000).toBeLessThan(60);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('searchbox')).toBeFocused();
  await page.keyboard.type('viola');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Viola');
  await expect(panel(page)).toBeFocused();
});

test('told up and turned down, it says so at once, and remembers which way this tuner goes', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('3');
  await page.keyboard.press(' ');
  await page.keyboard.press('p');
  await expect(message(page)).toContainText('C4 as found', { timeout: 8000 });
  // Chosen once more, what was found low is brought up.
  await page.keyboard.press('3');
  await expect(page.getByTestId('tuner')).toContainText('third tuner from the nut, treble side');
  await page.keyboard.press('p');
  await expect(instruction(page)).toContainText('Bring it up', { timeout: 8000 });
  await expect(page.getByTestId('tuner')).toContainText('top edge away from you');
  for (let k = 0; k < 9; k++) await page.keyboard.press('ArrowDown');
  await expect(instruction(page)).toHaveText('That went down: turn the other way', { timeout: 4000 });
  await expect(page.getByTestId('tuner')).toContainText('top edge towards you');
  await expect(async () => {
    await bringUp(page);
    await expect(message(page)).toContainText('C4 as left', { timeout: 3000 });
  }).toPass({ timeout: 40000 });
  await page.goto('/demo/log');
  // Every turn that taught something is a record; the newest counts.
  await expect(page.getByText(/C4: its tuner goes the other way/).first()).toBeVisible();
});

test('a newer version is told and waits; it is installable; the screen stays awake while it listens', async ({
  page,
  request,
}) => {
  await page.addInitScript({
    content: `window.awake = 0; navigator.wakeLock.request = async () => { window.awake++; return { release: async () => { window.awake--; } }; };`,
  });
  await openDemo(page);
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  await page.keyboard.press(' ');
  await expect.poll(() => page.evaluate('window.awake')).toBe(1);
  const before = readFileSync('dist/sw.js', 'utf8');
  try {
    appendFileSync('dist/sw.js', '\n// newer\n');
    await page.evaluate(async () => (await navigator.serviceWorker.ready).update());
    const told = page.getByText('A new version lies ready');
    await expect(told).toContainText('reload when you have done');
    await page.keyboard.press(' ');
    await expect(told).toContainText('reload when you like');
    expect(await page.evaluate('window.awake')).toBe(0);
    await Promise.all([page.waitForEvent('load'), told.getByRole('button', { name: 'Reload' }).click()]);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(told).toHaveCount(0);
  } finally {
    writeFileSync('dist/sw.js', before);
  }
  const manifest = await request.get('/app.webmanifest');
  const { icons } = (await manifest.json()) as { icons: { src: string }[] };
  for (const { src } of icons) expect((await request.get(src)).status()).toBe(200);
});

for (const [name, { viewport }] of [
  ['a phone', devices['Pixel 5']],
  ['a tablet', { viewport: { width: 820, height: 1100 } }],
] as const) {
  test.describe(`by touch on ${name}`, () => {
    test.use({ viewport, hasTouch: true });
    test('a check pass and the plan', async ({ page }) => {
      await openDemo(page);
      const bar = page.getByRole('toolbar');
      const header = await page.getByRole('banner').boundingBox();
      if (name === 'a phone') expect(header!.height).toBeLessThanOrEqual(96);
      await bar.getByRole('button', { name: 'Start a check pass' }).tap();
      await expect(instruction(page)).toHaveText('Pluck A4, touch no tuner');
      await expect(instruction(page)).toBeInViewport();
      await expect(page.getByTestId('live-cents')).toBeInViewport();
      for (const note of ['A4', 'E4']) {
        await page.getByRole('button', { name: 'Pluck', exact: true }).tap();
        await expect(message(page)).toContainText(`${note} as found`, { timeout: 8000 });
      }
      await bar.getByRole('button', { name: 'Take back' }).tap();
      await expect(message(page)).toContainText('taken back');
      await bar.getByRole('button', { name: 'More' }).tap();
      await page.getByRole('menuitem', { name: 'Type a figure from another device' }).tap();
      await expect(page.getByLabel('Cents from the target, or Hz')).toBeFocused();
      await page.keyboard.press('Escape');
      // What is tapped is large enough, on a phone.
      if (name === 'a phone')
        for (const button of await bar.getByRole('button').all())
          expect((await button.boundingBox())!.height).toBeGreaterThanOrEqual(44);
      await page.getByRole('link', { name: 'Plan', exact: true }).tap();
      await page.getByRole('button', { name: /^The show/ }).tap();
      await page.getByLabel('Length, min').fill('60');
      await page.getByRole('button', { name: 'Plan it' }).tap();
      await expect(page.getByText('60 min within')).toBeVisible();
      await page.getByRole('button', { name: /^Go to it/ }).tap();
      await expect(panel(page)).toBeVisible();
      expect(await page.evaluate(() => window.scrollY)).toBe(0);
    });
  });
}

test('rows written by hand are not wiped without a way back; a string with readings is taken away only after a question', async ({
  page,
}) => {
  await page.goto('/add');
  await page.getByRole('button', { name: 'Viola', exact: true }).click();
  await page.getByLabel('String 1, note').fill('B4');
  await page.getByRole('button', { name: 'Cello', exact: true }).click();
  await expect(page.getByLabel('String 1, note')).toHaveValue('A3');
  await page.getByRole('button', { name: 'Bring them back' }).click();
  await expect(page.getByLabel('String 1, note')).toHaveValue('B4');
  await page.getByRole('button', { name: 'Double string 4' }).click();
  await page.getByRole('button', { name: 'Move string 5 up' }).click();
  await page.getByRole('button', { name: 'Put it on the bench' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Viola');
  await expect(panel(page)).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.press('k');
  await page.getByLabel('Cents from the target, or Hz').fill('-4');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /String 1, B4, .*−4.0 cents/ })).toBeVisible();
  await page.getByRole('link', { name: 'Edit', exact: true }).click();
  await page.getByRole('button', { name: 'Remove string 1' }).click();
  await expect(page.getByRole('dialog')).toContainText('It has 1 readings');
  await page.getByRole('button', { name: 'Take it away' }).click();
  await page.getByRole('button', { name: 'Keep the changes' }).click();
  await expect(page.getByRole('button', { name: /String 1, D4/ })).toBeVisible();
  await page.getByRole('link', { name: 'Edit', exact: true }).click();
  await page.getByRole('button', { name: 'Bring B4 back' }).click();
  await page.getByRole('button', { name: 'Keep the changes' }).click();
  await expect(page.getByRole('button', { name: /B4, .*−4.0 cents/ })).toBeVisible();
  // Another of the same name is told apart.
  await addInstrument(page, 'Viola', undefined, 'Viola 2');
});
