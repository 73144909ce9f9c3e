import { expect, test } from '@playwright/test';
import { addInstrument, openDemo, panel, typeFigure } from './bench';

test('an instrument by hand: faults are said at their fields, then it stands on the bench', async ({ page }) => {
  await page.goto('/add');
  await page.getByRole('button', { name: 'Another: write its strings' }).click();
  await page.getByRole('button', { name: 'Put it on the bench' }).click();
  await expect(page.getByText('Give the instrument a name.')).toBeVisible();
  await expect(page.getByText('An instrument has at least one string.')).toBeVisible();
  await page.getByLabel('Name', { exact: true }).fill('Box zither');
  await page.getByRole('combobox', { name: 'Tuners' }).selectOption('pin');
  await page.getByLabel('frets', { exact: true }).uncheck();
  await page.getByRole('button', { name: 'Add a string' }).click();
  await page.getByLabel('String 1, note').fill('H4');
  await page.getByLabel('String 1, speaking length in mm').fill('20');
  await page.getByLabel('String 1, gauge').fill('thick');
  await page.getByRole('button', { name: 'Put it on the bench' }).click();
  await expect(page.getByText('Write the note as a letter, # or b, and an octave: F#3.')).toBeVisible();
  await expect(page.getByText('A speaking length is 80 mm or more.')).toBeVisible();
  await expect(page.getByText('Give the gauge as 0.25, .010 or 10, or leave it empty.')).toBeVisible();
  await page.getByLabel('String 1, note').fill('A4');
  await page.getByLabel('String 1, speaking length in mm').fill('400');
  await page.getByLabel('String 1, gauge').fill('0,4');
  await page.getByLabel('String 1, material').selectOption('plain-steel');
  await page.getByRole('button', { name: 'Put it on the bench' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Box zither' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Octave', exact: true })).toHaveCount(0);
  // 0.4 mm of music wire at 440 Hz over 400 mm: 7850 kg/m3 x section x (2 L f)^2 = 122 N.
  await expect(panel(page).getByText(/^122 N, /)).toBeVisible();
});

test('editing keeps the readings and takes a new name; new strings start a new life', async ({ page }) => {
  await addInstrument(page, 'Tenor banjo');
  await page.keyboard.press('Enter');
  await typeFigure(page, '-4');
  await expect(page.getByRole('button', { name: 'String 1, A4, settling, −4.0 cents' })).toBeVisible();
  await page.getByRole('link', { name: 'Edit' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Banjo of the house');
  await page.getByRole('button', { name: 'Keep the changes' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Banjo of the house' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'String 1, A4, settling, −4.0 cents' })).toBeVisible();
  await page.getByRole('link', { name: 'Edit' }).click();
  await page.getByLabel('restrung just now').check();
  await page.getByRole('button', { name: 'Keep the changes' }).click();
  await expect(page.getByRole('button', { name: 'String 1, A4, unread' })).toBeVisible();
});

test('reference, room and curtain are typed in the header; a wrong one is told', async ({ page }) => {
  await addInstrument(page, 'Seven-string lyre, pentatonic');
  await page.getByRole('button', { name: /Reference A4/ }).click();
  await page.getByLabel('From 392 to 466 Hz.').fill('500');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('Give a reference from 392 to 466 Hz.');
  await page.getByLabel('From 392 to 466 Hz.').fill('432');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /Reference A4/ })).toContainText('432.0 Hz');
  await page.getByRole('button', { name: /Room/ }).click();
  await page.getByLabel(/in degrees Celsius/).fill('65.3 F');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /Room/ })).toContainText('18.5 °C');
  await page.getByRole('button', { name: /Curtain/ }).click();
  await page.getByLabel(/Time of day/).fill('25:00');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('Write the time as hours and minutes');
  await page.getByLabel(/Time of day/).fill('11:59 pm');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /Curtain/ })).toContainText(/23:59/);
  await page.reload();
  await expect(page.getByRole('button', { name: /Reference A4/ })).toContainText('432.0 Hz');
});

test('an instrument is put away and brought back with what is known of it; the eleventh string has two digits', async ({
  page,
}) => {
  await openDemo(page);
  await page.goto('/demo/bench/kantele');
  await expect(page.getByRole('heading', { level: 1, name: 'Kantele, 11 strings' })).toBeVisible();
  await expect(panel(page)).toBeFocused();
  await page.keyboard.press('1');
  await page.keyboard.press('1');
  await expect(panel(page).getByRole('heading')).toContainText('String 11, as found');
  await page.goto('/demo/instrument/kantele');
  await page.getByRole('button', { name: 'Put it away' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Requinto, nylon' })).toBeVisible();
  await expect(page.getByRole('link', { name: /Kantele/ })).toHaveCount(0);
  await page.getByRole('link', { name: 'Add an instrument' }).click();
  await page.getByRole('button', { name: 'Bring Kantele, 11 strings back' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Kantele, 11 strings' })).toBeVisible();
  await expect(page.getByRole('button', { name: /String 1, .*cents/ })).toBeVisible();
});
