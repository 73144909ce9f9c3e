import { expect, test, type Page } from '@playwright/test';
import { addInstrument, collectErrors, instruction, openDemo } from './bench';

/** What is typed after '/', and the view that it leads to. */
const want = async (page: Page, words: string): Promise<void> => {
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'I want to …' }).fill(words);
  await page.keyboard.press('Enter');
};

test('six jobs by keyboard, each from the words of a player to its first instruction', async ({ page }) => {
  const errors = collectErrors(page);
  await openDemo(page);
  for (const [words, title, first] of [
    ['just strung', 'Put on and stretch', /string/i],
    ['flat when I bend', 'Why it goes out', /Answer|Pluck|Next/],
    ['saddle', 'Intonation', /Read|Move|saddle|move/],
    ['no tuner at hand', 'By ear', /Press Enter|Choose/],
    ['drop tuning', 'Other tunings', /tuning/i],
    ['we play at eight', 'Schedule', /show/i],
  ] as const) {
    await want(page, words);
    await expect(page).toHaveTitle(new RegExp(`^${title}`));
    await expect(page.getByRole('main')).toContainText(first);
  }
  // What is not known is said.
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'I want to …' }).fill('qqqqqq');
  await expect(page.getByRole('dialog').getByRole('status')).toContainText('Nothing here is called that');
  expect(errors).toEqual([]);
});

test('an untouched instrument asks what is wanted, and the rack says what is next; one press goes there', async ({
  page,
}) => {
  await addInstrument(page, 'Six-string guitar, steel');
  const asks = page.getByRole('navigation', { name: 'What do you want to do?' });
  await expect(asks.getByRole('link')).toHaveCount(6);
  await asks.getByRole('link', { name: 'Is the saddle right?' }).click();
  await expect(page).toHaveTitle(/^Intonation/);
  await expect(instruction(page)).toHaveText('Read the octaves');
  await openDemo(page);
  await page.getByRole('link', { name: 'C4 slipped: find out why, Requinto, nylon' }).click();
  await expect(page).toHaveTitle(/^Why it goes out/);
});
