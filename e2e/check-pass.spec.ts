import { expect, test } from '@playwright/test';
import { collectErrors, doAsTold, instruction, message, openDemo, panel, recordCount } from './bench';

test('a whole check pass by keys alone: six strings as found, the low ones brought up, a time to come back', async ({
  page,
}) => {
  const errors = collectErrors(page);
  await openDemo(page);
  await page.keyboard.press('Enter');
  await expect(instruction(page)).toContainText(/pluck A4/i);
  for (const note of ['A4', 'E4', 'C4', 'G3', 'D3', 'A2']) {
    // The one before may ring on: it is told by its name, or asked about, and the next pluck answers.
    await expect(instruction(page)).toHaveText(new RegExp(`pluck ${note}|is it ${note} gone`, 'i'));
    await page.keyboard.press('p');
    await expect(message(page)).toContainText(new RegExp(`${note}: .*as found`));
  }
  await expect(panel(page).getByRole('heading')).toHaveText(/bring up/);
  // The last note may be followed by a pluck more, which says something else.
  let left = false;
  await doAsTold(page, async () => {
    left ||= ((await message(page).textContent()) ?? '').includes('as left');
    return panel(page).getByText('Check done').isVisible();
  });
  expect(left).toBe(true);
  await expect(instruction(page)).toHaveText(/^Leave it\. (Check|Last tuning) at \d\d:\d\d$/);
  const kept = await page.getByRole('listitem').filter({ hasText: 'settling' }).count();
  expect(kept).toBeGreaterThan(0);

  // Everything is still there after a reload, and says the same.
  const before = await recordCount(page, '/demo');
  expect(before).toBeGreaterThan(300);
  await page.reload();
  expect(Number(await page.getByTestId('record-count').textContent())).toBe(before);
  expect(errors).toEqual([]);
});
