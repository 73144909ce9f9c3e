import { expect, test } from '@playwright/test';
import { collectErrors, follow, instruction, message, openDemo } from './bench';

test('the viola’s D peg is found, treated and proved, by the pedal alone', async ({ page }) => {
  test.setTimeout(180_000);
  const errors = collectErrors(page);
  await openDemo(page);
  await page.goto('/demo/causes/viola');
  await expect(instruction(page)).toContainText('Answer, or Enter');
  await page.keyboard.press('2');
  // What the log does not tell is asked: a letter answers, the pedal leaves it open.
  await expect(page.getByRole('heading', { name: 'When does it go?' })).toBeVisible();
  await follow(page, /^Do what is told/);
  await expect(page.getByTestId('finding')).toContainText('the peg or pin slips', { ignoreCase: true });
  await expect(page.getByRole('region', { name: 'What to do about it' })).toContainText('a repairer fits another');
  await expect(page.getByRole('list', { name: 'What was read' })).toContainText('For: ');
  const tests = await page.getByRole('list', { name: 'What was read' }).getByRole('listitem').count();
  // What was read is in the log, and goes on after a reload.
  await page.reload();
  await expect(page.getByRole('list', { name: 'What was read' }).getByRole('listitem')).toHaveCount(tests);
  await expect(instruction(page)).toContainText('Do what is told');
  await page.keyboard.press('PageDown');
  await follow(page, /^Done/);
  await expect(message(page)).toContainText('it helped');
  await expect(page.getByRole('link', { name: 'Set it up as a trial' })).toHaveAttribute('href', /what=peg\+treated/);
  await page.goto('/demo/log');
  await expect(page.getByText(/D4: treated because the peg or pin slips: helped/)).toBeVisible();
  expect(errors).toEqual([]);
});

test('the kantele’s loose pin is found, treated and proved', async ({ page }) => {
  test.setTimeout(180_000);
  await openDemo(page);
  await page.goto('/demo/causes/kantele');
  await expect(instruction(page)).toContainText('Answer, or Enter');
  await page.keyboard.press('5');
  await page.getByRole('button', { name: 'Overnight, left alone' }).click();
  await follow(page, /^Do what is told/);
  await expect(page.getByTestId('finding')).toContainText('the peg or pin slips', { ignoreCase: true });
  await page.keyboard.press('Enter');
  await follow(page, /^Done/);
  await expect(message(page)).toContainText('it helped');
});

test('a remedy is set up as a trial from its link', async ({ page }) => {
  await openDemo(page);
  await page.goto('/demo/trial?what=slot+lubricated+%2F+not&instrument=baritone');
  await expect(page.getByLabel('What is compared')).toHaveValue('slot lubricated / not');
  await expect(page.getByRole('checkbox', { name: 'Baritone, floating bridge' })).toBeChecked();
});
