import { expect, test, type Page } from '@playwright/test';
import { collectErrors, figure, follow, instruction, liveCents, message, openDemo, turnAsTold } from './bench';

/** Does as it is told on the bridge, by keys alone: plucks, turns to the stop, turns the claw; counts what it did. */
async function tune(page: Page): Promise<{ claw: number; stops: Set<string> }> {
  let claw = 0;
  const stops = new Set<string>();
  for (let i = 0; i < 900; i++) {
    const says = (await instruction(page).allTextContents())[0] ?? '';
    const said = (await message(page).allTextContents())[0] ?? '';
    const stop = (await page.getByTestId('stop').allTextContents())[0];
    if (stop) stops.add(stop);
    if (/^All are right/.test(says)) return { claw, stops };
    const off = figure((await liveCents(page).allTextContents())[0] ?? null);
    if (/Enter takes it/.test(said) && Math.abs(off) < 3) {
      await page.keyboard.press('PageDown');
      await page.waitForTimeout(700);
    } else if (/^Turn both screws/.test(says)) {
      claw++;
      await page.keyboard.press('c');
      await page.keyboard.press('PageDown');
      await expect(instruction(page)).not.toHaveText(says);
    } else if (!(await turnAsTold(page, says))) await page.waitForTimeout(150);
  }
  throw new Error(`never done: ${await instruction(page).textContent()}`);
}

test('the baritone to a new tuning by keys: claw, stops that are not zero, all right; what was learned is used the next time', async ({
  page,
}) => {
  test.setTimeout(600_000);
  const errors = collectErrors(page);
  await openDemo(page);
  await page.goto('/demo/tuning/baritone');
  await page.getByRole('button', { name: 'A half step down' }).click();
  await page.keyboard.press('PageDown');
  await expect(message(page)).toContainText('In force from now on');
  await page.goto('/demo/bridge/baritone');
  // With another tuning in force that is what is offered.
  await expect(page.getByRole('button', { name: 'A new tuning' })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByTestId('ways').getByRole('listitem')).toHaveCount(4);
  await expect(page.getByText('Reckoned from gauges and springs')).toBeVisible();
  await page.keyboard.press('PageDown');
  const first = await tune(page);
  expect(first.claw).toBeGreaterThan(0);
  expect([...first.stops].filter((s) => Math.abs(figure(s.split('stop at')[1] ?? null)) > 10).length).toBeGreaterThan(
    2,
  );
  for (const text of await page.getByRole('list', { name: 'Strings now' }).getByRole('listitem').allInnerTexts())
    expect(Math.abs(figure(text.replace(/^\S+\s/, '')))).toBeLessThan(2);
  // A press at once would be one that was meant for the last reading.
  await page.waitForTimeout(800);
  await page.keyboard.press('PageDown');
  await expect(message(page)).toContainText('what was learned of this bridge');
  await page.goto('/demo/log');
  await expect(page.getByText(/bridge, claw turned/).first()).toBeVisible();
  await expect(page.getByText(/bridge, stopped at/).first()).toBeVisible();
  // The next session begins with what was learned.
  await page.goto('/demo/bridge/baritone');
  await expect(page.getByText('As this bridge was learned.')).toBeVisible();
  expect(errors).toEqual([]);
});

test('fewer springs give back more, said before anything is turned; a bridge that is fast has no such view', async ({
  page,
}) => {
  await openDemo(page);
  await page.goto('/demo/bridge/baritone');
  const lambda = async () => Number(/lambda ([\d.]+)/.exec(await page.getByText(/lambda/).innerText())![1]);
  const three = await lambda();
  await page.getByRole('combobox', { name: 'Springs' }).selectOption('2');
  await expect(message(page)).toHaveText('2 springs.');
  expect(await lambda()).toBeGreaterThan(three + 0.03);
  await page.goto('/demo/bridge/viola');
  await expect(page.getByText('is not held by springs')).toBeVisible();
});

test('bar down and up, twice, by keys: one string does not come back, and Causes goes on with what it did', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await openDemo(page);
  await page.goto('/demo/bridge/baritone');
  await expect(instruction(page)).toContainText('Enter begins');
  await page.keyboard.press('r');
  // The pedal opens the ear, does the bar, and takes nothing by itself: every string reads itself.
  await page.keyboard.press('Space');
  await follow(page, /back to the bridge/);
  await expect(page.getByTestId('return-verdict')).toContainText('The bridge itself comes back. F#3 does not');
  const row = await page.getByTestId('returns').getByRole('row', { name: /^F#3/ }).innerText();
  expect(Math.abs(figure(row.split(/\s+/)[2] ?? null))).toBeGreaterThan(5);
  await expect(message(page)).toHaveText('Kept, string by string.');
  await page.getByRole('link', { name: /Causes goes on/ }).click();
  await expect(page.getByRole('list', { name: 'What was read' })).toContainText(/A dive\s*\+\d/);
});

test('clamps at the nut: what locking did is read, and aimed off for the next time', async ({ page }) => {
  test.setTimeout(120_000);
  await openDemo(page);
  await page.goto('/demo/instrument/baritone');
  await page.getByText('Its build').click();
  await page.getByRole('checkbox', { name: 'clamps at the nut' }).check();
  await page.getByRole('button', { name: /Keep/ }).click();
  await page.goto('/demo/bridge/baritone');
  await expect(page.getByTestId('rooms')).toContainText('have left');
  await expect(page.getByTestId('lock-shifts')).toContainText('read after it');
  // Nothing was left by the bridge yet: a touch-up first, stopped when all were read.
  await page.getByRole('combobox', { name: 'Order' }).selectOption('own');
  await expect(page.getByRole('button', { name: 'Begin' })).toBeDisabled();
  await page.getByRole('textbox', { name: 'Your order' }).fill('6 5 4 3 2 1');
  await page.getByRole('combobox', { name: 'Clamps at the nut' }).selectOption('open');
  await page.getByRole('button', { name: 'Begin' }).click();
  await follow(page, /and turn$/);
  await expect(page.getByTestId('stop')).toContainText('B1');
  await page.keyboard.press('Escape');
  // The next key is for what is seen next: one that comes before the session has ended would be for that session.
  await expect(instruction(page)).toContainText('Enter begins');
  await page.keyboard.press('l');
  await expect(instruction(page)).toContainText('Pluck');
  await follow(page, /and turn$|All are right/);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('lock-shifts')).toContainText('Locking has moved them');
});
