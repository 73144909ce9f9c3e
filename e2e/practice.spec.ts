import { expect, test, type Page } from '@playwright/test';
import { earTrial, thresholdOf, type StaircaseAnswer } from '../src/core/practice';
import { figure, instruction, openAt } from './bench';

const report = (page: Page) => page.getByTestId('report');

async function openPractice(page: Page): Promise<void> {
  await openAt(page, '/demo/practice');
  await expect(instruction(page)).toHaveText(/^Next: /);
}

test('hands by keys: from slack to pitch, to the report with the path', async ({ page }) => {
  await openPractice(page);
  await page.getByRole('button', { name: 'From slack to pitch' }).click();
  const cents = async () => figure(await page.getByTestId('pitch').textContent());
  for (let i = 0; i < 80 && (await cents()) < -45; i++) await page.keyboard.press('Shift+ArrowUp');
  for (let i = 0; i < 80 && (await cents()) < -2; i++) await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await expect(report(page)).toContainText('You came from below.');
  await expect(page.getByRole('img', { name: 'The path of pitch over time' })).toBeVisible();
});

test('an ear staircase converges on a scripted listener, by a handed-out exercise: the same notes as in Node', async ({
  page,
}) => {
  await openPractice(page);
  const exercise = { kind: 'slow-anchor-exercise', version: 1, practice: 'ear', exercise: 'fifth', seed: 31, task: '' };
  await page.getByLabel('Exercise file').setInputFiles({
    name: 'exercise.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(exercise)),
  });
  await expect(instruction(page)).toHaveText('Is the upper note of the fifth flat or sharp?');
  // Tells eight cents and more; says sharp to everything else.
  const trials: StaircaseAnswer[] = [];
  while (trials.length < 40) {
    const { cents, up } = earTrial('fifth', 31, trials);
    const saidUp = cents >= 8 ? up : true;
    trials.push({ cents, right: saidUp === up });
    await page.keyboard.press(saidUp ? 'ArrowUp' : 'ArrowDown');
  }
  const { cents } = thresholdOf(trials);
  expect(cents).toBeGreaterThan(4);
  expect(cents).toBeLessThan(12);
  await expect(report(page)).toContainText(`You tell ${cents.toFixed(1)} cents three times in four`);
  // By ear reckons with it until rounds have shown more.
  await page.goto('/demo/ear/viola');
  await expect(page.getByText('as your practice showed')).toBeVisible();
});

test('a fault hunt ends in a verdict with the truth shown', async ({ page }) => {
  await openPractice(page);
  await page.getByRole('button', { name: 'Find a hidden fault' }).click();
  await page.getByRole('button', { name: 'A hard bend or pull' }).click();
  await expect(page.getByRole('list', { name: 'What was read' }).getByRole('listitem')).toHaveCount(2);
  await page.getByRole('group', { name: 'Say why' }).getByRole('button').first().click();
  await expect(report(page)).toContainText(/(Right|It was another): .*You took 1 test\..*finder would say/);
});
