import { expect, test, type Page } from '@playwright/test';
import { collectErrors, figure, instruction, message, openDemo } from './bench';

const PLACES = 32;

/** Reads places of a pass by keys, as they are named, from the one it stands at: each is plucked. */
async function read(page: Page, from: number, to: number): Promise<void> {
  for (let i = from; i <= to; i++) {
    await expect(page.getByText(`Place ${i} of ${PLACES}`, { exact: true })).toBeVisible({ timeout: 15000 });
    await expect(async () => {
      await page.keyboard.press('p');
      await expect(page.getByText(`Place ${i} of ${PLACES}`, { exact: true })).toHaveCount(0, { timeout: 3500 });
    }).toPass({ timeout: 20000 });
  }
}

/** Octave error of every string as the drawing's name tells it. */
async function errors(page: Page): Promise<number[]> {
  const label = (await page.getByRole('img', { name: /^Bridge from above/ }).getAttribute('aria-label'))!;
  return label
    .replace(/^[^:]*: /, '')
    .split(', ')
    .map((part) => figure(part.replace(/^\S+ /, '')));
}

test('the bouzouki’s octaves by keys: the bridge is moved as told, and read again within a cent', async ({ page }) => {
  test.setTimeout(300_000);
  const faults = collectErrors(page);
  await openDemo(page);
  await page.getByRole('link', { name: 'Octave' }).click();
  await expect(instruction(page)).toContainText('Read the octaves');
  await page.getByRole('link', { name: 'Bouzouki' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Bouzouki');
  await expect(instruction(page)).toHaveText('Read the octaves');
  await page.keyboard.press('Enter');
  await read(page, 1, PLACES);
  const before = await errors(page);
  expect(before).toHaveLength(8);
  // The low foot stands 1.5 mm short: the low strings are sharp, the high ones right.
  expect(before[7]!).toBeGreaterThan(2);
  expect(Math.abs(before[0]!)).toBeLessThan(1);
  const told = (await instruction(page).textContent())!;
  expect(told).toMatch(/^Low foot 1\.[3-7] mm away from the nut/);
  await expect(page.getByText('Slacken the strings a little first')).toBeVisible();
  await page.keyboard.press('m');
  await expect(message(page)).toContainText('Noted. Retune');
  await expect(instruction(page)).toHaveText('Retune, then read again');
  // The outer strings again; the six between are passed over.
  await page.keyboard.press('Enter');
  await read(page, 1, 4);
  for (let i = 0; i < 6; i++) await page.keyboard.press('s');
  await read(page, PLACES - 3, PLACES);
  const after = await errors(page);
  expect(Math.abs(after[0]!)).toBeLessThan(1);
  expect(Math.abs(after[7]!)).toBeLessThan(1);
  await expect(page.getByRole('row', { name: /^G2 \+\d/ }).first()).toContainText('away from the nut');
  await expect(page.getByText(/low foot moved 1\.\d mm away from the nut/)).toBeVisible();
  await page.reload();
  expect(await errors(page)).toEqual(after);
  // A lower action asks for fresh readings.
  await page.getByLabel('Action changed by, mm').fill('−0,3');
  await page.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByText('action lowered 0.30 mm')).toBeVisible();
  await expect(page.getByText('The action or the nut was worked on since: read it again.')).toHaveCount(2);
  expect(faults).toEqual([]);
});

test('months of octaves: one string is worn, one saddle stands short, the rest agree', async ({ page }) => {
  await openDemo(page);
  await page.goto('/demo/octave/baritone');
  const strings = page.getByRole('list', { name: 'What the strings say' }).getByRole('listitem');
  await expect(strings).toHaveCount(6);
  await expect(strings.nth(1)).toContainText(/The string itself.*It grows by 1\.\d cents a month on this string/);
  await expect(strings.nth(2)).toContainText(/Move the saddle (1\.9|2\.0|2\.1) mm away from the nut/);
  await expect(strings.nth(0)).toContainText('Octave and open string agree');
  await expect(page.locator('.plotly').first()).toBeVisible();
  // The owner's own screws, travel and units.
  await page.getByLabel('Screws').selectOption('4-40');
  await expect(strings.nth(2)).toContainText(/3\.\d turns of its screw/);
  await page.getByLabel('Travel either way, mm').fill('1,5');
  await page.getByLabel('Travel either way, mm').blur();
  await expect(strings.nth(2)).toContainText(/Its travel ends after 1\.5 mm: 1\.\d cents remain/);
  await page.getByLabel('in', { exact: true }).click();
  await expect(strings.nth(2)).toContainText(/Move the saddle \.07\d|\.08\d in away/);
  await expect(strings.nth(1)).toContainText(/beyond your 4 cents/);
});

test('an octave pass by the pedal: a place is skipped, stepped back to and read, and the pass outlives a reload', async ({
  page,
}) => {
  await openDemo(page);
  await page.goto('/demo/octave/baritone');
  const place = (n: number) => page.getByText(`Place ${n} of 24`, { exact: true });
  await expect(instruction(page)).toContainText('saddle');
  await page.keyboard.press('PageDown');
  await expect(place(1)).toBeVisible();
  await page.waitForTimeout(1000);
  // Nothing sounds: the pedal says so and stays; going on has a key of its own.
  await page.keyboard.press('PageDown');
  await expect(message(page)).toContainText('Nothing sounds');
  await expect(place(1)).toBeVisible();
  await page.keyboard.press('n');
  await expect(place(2)).toBeVisible();
  await page.keyboard.press('PageUp');
  await expect(place(1)).toBeVisible();
  await page.keyboard.press('p');
  await expect(place(2)).toBeVisible({ timeout: 15000 });
  await expect(message(page)).toHaveText('B3 open kept.');
  await page.reload();
  await expect(place(2)).toBeVisible();
  await expect(instruction(page)).toHaveText('Press Space to listen');
  await page.keyboard.press(' ');
  await expect(instruction(page)).toHaveText('B3 at fret 12, pressed lightly');
  // Read again, the second reading takes the first one's place: the pass does not jump to its end.
  await page.keyboard.press('PageUp');
  await expect(place(1)).toBeVisible();
  await page.waitForTimeout(500);
  await page.keyboard.press('p');
  await expect(place(2)).toBeVisible({ timeout: 15000 });
  await page.keyboard.press('Escape');
  await expect(instruction(page)).toContainText('saddle');
});
