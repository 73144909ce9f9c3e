import { expect, test, type Page } from '@playwright/test';
import { ASKS_WHETHER, SOUNDED } from '../testing/asked';
import { instruction, message, openAt } from './bench';

/** A view is at work when it says what to do. */
async function openCauses(page: Page, instrumentId: string): Promise<void> {
  await openAt(page, `/demo/causes/${instrumentId}`);
  await expect(instruction(page)).toHaveText(/^Answer/);
}

const finding = (page: Page) => page.getByTestId('finding');

/** Does as it is told, by the pedal and the simulated pluck alone, until the sentence that ends it. @returns what was found on the way */
async function follow(page: Page, until: RegExp): Promise<string[]> {
  const found: string[] = [];
  for (let i = 0; i < 160; i++) {
    const sentence = (await instruction(page).textContent()) ?? '';
    found.push(...(await finding(page).allTextContents()));
    if (until.test(sentence)) return found;
    // What stands far from where it was is asked about: it is that string.
    const asks = ASKS_WHETHER.test((await message(page).allTextContents())[0] ?? '');
    if (!/^A moment/.test(sentence)) await page.keyboard.press(SOUNDED.test(sentence) && !asks ? 'p' : 'PageDown');
    await expect(instruction(page))
      .not.toHaveText(sentence, { timeout: 3000 })
      .catch(() => undefined);
  }
  throw new Error(
    `never got to ${until}: ${await instruction(page).textContent()} / ${await message(page).textContent()}`,
  );
}

/** From the finding to the remedy, and the same test again. */
async function treatAndProve(page: Page): Promise<void> {
  await expect(page.getByRole('region', { name: 'What to do about it' })).toBeVisible();
  await page.keyboard.press('PageDown');
  await follow(page, /^Done/);
  await expect(message(page)).toContainText('it helped');
}

test('the viola’s D peg is found, treated and proved', async ({ page }) => {
  await openCauses(page, 'viola');
  await page.keyboard.press('2');
  await expect(page.getByRole('heading', { name: 'When does it go?' })).toBeVisible();
  await follow(page, /^Do the steps beside/);
  await expect(finding(page)).toContainText(/the peg or pin slips/i);
  await treatAndProve(page);
});

test('the kantele’s loose pin is found, treated and proved', async ({ page }) => {
  await openCauses(page, 'kantele');
  await page.keyboard.press('5');
  // Of eleven strings a digit waits a second for another.
  await expect(page.getByRole('button', { name: /^D5/ })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: /^Overnight, left alone/ }).click();
  await follow(page, /^Do the steps beside/);
  await expect(finding(page)).toContainText(/the peg or pin slips/i);
  await treatAndProve(page);
});

test('the baritone’s F#3: nut or tree, until the short length behind the nut is plucked', async ({ page }) => {
  await openCauses(page, 'baritone');
  await page.keyboard.press('2');
  await page.getByRole('button', { name: /^While I bend or play hard/ }).click();
  const found = await follow(page, /^Do the steps beside/);
  expect(found).toContain('Perhaps it binds at the nut. The short length behind the nut tells more.');
  await expect(finding(page)).toHaveText('It binds at the nut.');
  await treatAndProve(page);
});
