import { expect, test, type Page } from '@playwright/test';
import { earTrial, thresholdOf, type StaircaseAnswer } from '../src/core/practice';
import { instruction, openAt } from './bench';

const report = (page: Page) => page.getByTestId('report');

async function openPractice(page: Page): Promise<void> {
  await openAt(page, '/demo/practice');
  await expect(instruction(page)).toHaveText(/^Next: /);
}

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
