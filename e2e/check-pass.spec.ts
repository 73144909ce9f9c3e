import { expect, test } from '@playwright/test';
import { bringUp, collectErrors, instruction, message, openDemo, panel, recordCount } from './bench';

test('a whole check pass by keys alone: six strings as found, the low ones brought up, a time to come back', async ({
  page,
}) => {
  test.setTimeout(180_000);
  const errors = collectErrors(page);
  await openDemo(page);
  await page.keyboard.press('Enter');
  await expect(instruction(page)).toHaveText('Pluck A4, touch no tuner');
  for (const note of ['A4', 'E4', 'C4', 'G3', 'D3', 'A2']) {
    await expect(instruction(page)).toContainText(`Pluck ${note}`);
    await page.keyboard.press('p');
    await expect(message(page)).toContainText(`${note} as found`, { timeout: 8000 });
  }
  let brought = 0;
  while (!(await panel(page).getByText('Pass done').isVisible())) {
    expect(brought).toBeLessThan(7);
    await expect(panel(page).getByRole('heading')).toHaveText(/bring up/);
    const note = /(.+), bring up/.exec((await panel(page).getByRole('heading').textContent()) ?? '')![1]!;
    await bringUp(page);
    await expect
      .poll(
        async () => {
          await bringUp(page);
          return panel(page).getByRole('heading').textContent();
        },
        { timeout: 45000 },
      )
      .not.toContain(note);
    await expect(message(page)).toContainText('as left');
    brought++;
  }
  expect(brought).toBeGreaterThan(2);
  await expect(instruction(page)).toHaveText(/^Leave it: next visit \d\d:\d\d$/);
  const kept = await page.getByRole('listitem').filter({ hasText: 'settling' }).count();
  expect(kept).toBeGreaterThan(0);

  // Everything is still there after a reload, and says the same.
  const before = await recordCount(page, '/demo');
  expect(before).toBeGreaterThan(300);
  await page.reload();
  expect(Number(await page.getByTestId('record-count').textContent())).toBe(before);
  expect(errors).toEqual([]);
});

test('Z takes the last reading back, digits choose, Page Up goes back, and a pass is resumed after a reload', async ({
  page,
}) => {
  await openDemo(page);
  await page.keyboard.press('Enter');
  await page.keyboard.press('p');
  await expect(message(page)).toContainText('A4 as found', { timeout: 8000 });
  await expect(instruction(page)).toContainText('Pluck E4');
  await page.keyboard.press('z');
  await expect(message(page)).toContainText('taken back');
  await expect(instruction(page)).toContainText('Pluck A4');
  await page.keyboard.press('5');
  await expect(instruction(page)).toContainText('Pluck D3');
  await page.keyboard.press('PageUp');
  await expect(instruction(page)).toContainText('Pluck G3');
  await page.keyboard.press('p');
  await expect(message(page)).toContainText('G3 as found', { timeout: 8000 });
  await page.reload();
  await expect(instruction(page)).toHaveText('Press Space to listen');
  await page.keyboard.press(' ');
  await expect(instruction(page)).toContainText('Pluck A4');
  // The pedal takes what sounds, and never passes a string over because it was quiet.
  await page.keyboard.press('PageDown');
  await expect(message(page)).toContainText('Nothing sounds: pluck A4 first. N goes on without it.');
  await expect(instruction(page)).toContainText('Pluck A4');
  // Z finds what the pass has kept in the log, also after a reload.
  await page.keyboard.press('z');
  await expect(message(page)).toContainText('taken back');
  // Skipping has a key of its own: the string after, until nothing is left but what was found low.
  for (const note of ['E4', 'C4', 'G3', 'D3', 'A2']) {
    await page.keyboard.press('n');
    await expect(instruction(page)).toContainText(`Pluck ${note}`);
  }
  await page.keyboard.press('n');
  await expect(panel(page).getByRole('heading')).not.toContainText('as found');
});

test('a visit of the plan stays where it is while the clock moves on, then it is due; a figure is shown with its age', async ({
  page,
}) => {
  await openDemo(page);
  await expect(instruction(page)).toHaveText(/^Leave it: next visit 16:\d\d$/);
  const said = (await instruction(page).textContent())!;
  const lanes = page.getByRole('region', { name: 'Strings' }).getByRole('listitem');
  await expect(lanes.filter({ hasText: said.toLowerCase() }).first()).toBeVisible();
  await page.getByRole('button', { name: '+1 h' }).click();
  await expect(page.getByTestId('age')).toContainText(/^[+−]?[\d.]+ at \d+:\d\d, by now about [+−]?\d+ ±\d+/);
  await page.getByRole('button', { name: '+10 min' }).click();
  await expect(page.getByText(/Demonstration, the Heron at/)).toContainText('15:1');
  await expect(instruction(page)).toHaveText(said);
  await page.getByRole('button', { name: '+1 h' }).click();
  await expect(instruction(page)).toHaveText('Now: check it, to learn how it falls');
  await expect(lanes.filter({ hasText: 'bring it up now' }).first()).toBeVisible();
});

test('an empty bench: Enter puts an instrument on it, and F fits nothing', async ({ page }) => {
  await page.goto('/bench');
  await expect(page.getByRole('heading', { name: /A fresh string falls/ })).toBeVisible();
  await page.keyboard.press('f');
  expect(new URL(page.url()).pathname).toBe('/bench');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Add an instrument' })).toBeVisible();
});

test('keys stay quiet while a field has the focus', async ({ page }) => {
  await openDemo(page);
  // K opens the sheet for a figure from another device, and its field has the focus.
  await page.keyboard.press('k');
  await expect(page.getByLabel('Cents from the target, or Hz')).toBeFocused();
  await page.keyboard.type('12 z');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'Write cents' })).toBeVisible();
  await page.getByLabel('Cents from the target, or Hz').fill('−6,3');
  await page.keyboard.press('Enter');
  await expect(message(page)).toContainText('as found −6.3 ±1.0 kept');
  await page.goto('/demo/log');
  await expect(page.getByRole('listitem').first()).toContainText('as-found −6.3 ±1.0 cents (typed');
});

test('the clock is moved to the curtain, and starting over brings the first bench back', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: '+1 h' }).click();
  await expect(page.getByText(/Demonstration, the Heron at/)).toContainText('15:0');
  await page.getByRole('button', { name: 'To the curtain' }).click();
  await expect(page.getByText(/Demonstration, the Heron at/)).toContainText('19:30');
  await page.getByRole('button', { name: 'Start it over' }).click();
  await expect(page.getByText(/Demonstration, the Heron at/)).toContainText('14:0');
  await page.getByRole('link', { name: 'Leave it' }).click();
  await expect(page.getByRole('heading', { name: /A fresh string falls/ })).toBeVisible();
});
