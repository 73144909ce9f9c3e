import { expect, test, type Page } from '@playwright/test';
import { collectErrors, instruction, message, openDemo } from './bench';

/** Does as it is told, by the pedal and the simulated pluck alone, until the sentence that ends it. */
async function follow(page: Page, until: RegExp): Promise<void> {
  for (let i = 0; i < 120; i++) {
    const sentence = (await instruction(page).textContent()) ?? '';
    if (until.test(sentence)) return;
    // A hand waits for what comes next.
    if (!/^A moment/.test(sentence))
      await page.keyboard.press(/^(Pluck|At fret|Its harmonic)/.test(sentence) ? 'p' : 'PageDown');
    await expect(instruction(page))
      .not.toHaveText(sentence, { timeout: 3000 })
      .catch(() => undefined);
  }
  throw new Error(`never got there: ${await instruction(page).textContent()}`);
}

test('the viola’s D peg is found, treated and proved, by the pedal alone', async ({ page }) => {
  test.setTimeout(180_000);
  const errors = collectErrors(page);
  await openDemo(page);
  await page.goto('/demo/causes/viola');
  await expect(instruction(page)).toContainText('Next:');
  await page.keyboard.press('2');
  await expect(instruction(page)).toContainText('Next:');
  await follow(page, /^Do what is told/);
  await expect(page.getByTestId('finding')).toContainText('the peg or pin slips', { ignoreCase: true });
  await expect(page.getByRole('region', { name: 'What to do about it' })).toContainText('a repairer fits another');
  const tests = await page.getByRole('list', { name: 'What was read' }).getByRole('listitem').count();
  // What was read is in the log, and goes on after a reload.
  await page.reload();
  await expect(page.getByRole('list', { name: 'What was read' }).getByRole('listitem')).toHaveCount(tests);
  await expect(instruction(page)).toContainText('Do what is told');
  await page.keyboard.press('PageDown');
  await follow(page, /^Done/);
  await expect(message(page)).toContainText('it helped');
  await page.goto('/demo/log');
  await expect(page.getByText(/D4: treated because the peg or pin slips: helped/)).toBeVisible();
  expect(errors).toEqual([]);
});
