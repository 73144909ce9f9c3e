import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { collectErrors, message, openDemo } from './bench';

test('pure fifths from A: what they cost, in force by a key, one choice on the bench, and back', async ({ page }) => {
  const errors = collectErrors(page);
  await openDemo(page);
  await page.goto('/demo/tuning/viola');
  await page.getByRole('button', { name: 'Pure fifths from A' }).click();
  await expect(page.getByTestId('cost')).toContainText('major sixth from C3 to A4, +21.5 cents');
  await expect(page.getByTestId('cost')).toContainText('the C3 stands −5.9');
  await page.keyboard.press('PageDown');
  await expect(message(page)).toContainText('In force from now on: Its own notes, pure fifths');
  await page.goto('/demo/bench/viola');
  const choice = page.getByLabel('Tuned as');
  await expect(choice).toHaveValue('Its own notes, pure fifths');
  // The C stood near its equal-tempered place: against the pure one it is sharp.
  const c = page.getByRole('button', { name: /^C3|C3,/ }).first();
  await expect(c).toContainText(/\+5\.\d/);
  await choice.selectOption('its own notes, equal');
  await expect(c).toContainText(/−0\.\d/);
  expect(errors).toEqual([]);
});

test('a tuning leaves as a file and comes back; another instrument’s is refused with its reason', async ({ page }) => {
  await openDemo(page);
  await page.goto('/demo/tuning/baritone');
  await page.getByRole('button', { name: 'A half step down' }).click();
  await page.getByLabel('Capo').selectOption('2');
  await page.getByLabel('Name').fill('For the second half');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  const path = await (await download).path();
  const file = JSON.parse(readFileSync(path, 'utf8')) as { capo: number; strings: { note: string }[] };
  expect(file.capo).toBe(2);
  expect(file.strings[5]!.note).toBe('C2');
  await page.reload();
  await page.getByLabel('Tuning file').setInputFiles(path);
  await expect(message(page)).toContainText('For the second half is laid out below');
  await expect(page.getByLabel('Note of string 6')).toHaveValue('A#1');
  await page.goto('/demo/tuning/viola');
  await page.getByLabel('Tuning file').setInputFiles(path);
  await expect(message(page)).toHaveText('That tuning is for 6 strings, this instrument has 4.');
});

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
