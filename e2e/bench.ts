import { chromium, expect, test, type Page } from '@playwright/test';
import { mkdirSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { writeWav } from '../src/core/exchange';

/** What the bench says: the instruction, the message, the figure. */
export const instruction = (page: Page) => page.getByTestId('instruction');
export const message = (page: Page) => page.getByTestId('message');
export const liveCents = (page: Page) => page.getByTestId('live-cents');
export const panel = (page: Page) => page.getByRole('complementary', { name: 'What to do now' });

/** A figure as the screen writes it, '−6.3', as a number; NaN where none stands. */
export function figure(text: string | null): number {
  const m = /[+−-]?\d+(\.\d+)?/.exec(text ?? '');
  return m ? Number(m[0].replace('−', '-')) : NaN;
}

/** Opens the demonstration bench, fresh: every browser context starts with empty stores. */
export async function openDemo(page: Page): Promise<void> {
  await page.goto('/demo/bench');
  // The first visit writes the whole demonstration: a busy machine may take its time.
  await expect(page.getByRole('heading', { level: 1, name: 'Requinto, nylon' })).toBeVisible({ timeout: 60_000 });
  await expect(panel(page).getByText('Fallen in all since strung')).toBeVisible();
}

/** Adds an instrument of a family, strung just now unless said otherwise, to the user's own bench, and opens it there. */
export async function addInstrument(page: Page, family: string, strung?: string, name = family): Promise<void> {
  await page.goto('/add');
  if (strung) await page.getByLabel(strung).check();
  await page.getByRole('button', { name: family, exact: true }).click();
  await page.getByRole('button', { name: 'Put it on the bench' }).click();
  await expect(page.getByRole('heading', { level: 1, name, exact: true })).toBeVisible();
  await expect(panel(page)).toBeFocused();
}

export async function recordCount(page: Page, base = ''): Promise<number> {
  await page.goto(`${base}/log`);
  return Number(await page.getByTestId('record-count').textContent());
}

/** Writes a sound where Chromium's fake microphone finds it; returns the path. */
export function writeSound(name: string, samples: Float32Array, sampleRate: number): string {
  mkdirSync('.tmp', { recursive: true });
  const path = resolve('.tmp', name);
  writeFileSync(path, writeWav(samples, sampleRate));
  return path;
}

/** Chromium's switches for a microphone that plays a file, with permission given. */
const fakeMicrophone = (path: string): string[] => [
  '--use-fake-device-for-media-stream',
  '--use-fake-ui-for-media-stream',
  `--use-file-for-fake-audio-capture=${path}`,
];

/** Collects console errors and page errors: a policy violation or a crash fails the test that asks. */
export function collectErrors(page: Page): string[] {
  const errors: string[] = [];
  page.on('console', (m) => {
    if (m.type() === 'error') errors.push(m.text());
  });
  page.on('pageerror', (e) => errors.push(e.message));
  return errors;
}

/** Types a figure for the named string by the menu and its sheet, as a user without a microphone does. */
export async function typeFigure(page: Page, text: string): Promise<void> {
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Type a figure from another device' }).click();
  await page.getByLabel('Cents from the target, or Hz').fill(text);
  await page.keyboard.press('Enter');
}

/** Plucks as a hand does: again only when the instruction has not moved on for a while. */
export async function pluck(page: Page): Promise<void> {
  await page.keyboard.press('p');
  const before = (await instruction(page).textContent()) ?? '';
  await expect(instruction(page))
    .not.toHaveText(before, { timeout: 2500 })
    .catch(() => undefined);
}

/** Turns the simulated tuner by keys until the string stands in tolerance, plucking when it has died away. */
export async function bringUp(page: Page): Promise<void> {
  for (let i = 0; i < 60; i++) {
    const sentence = (await instruction(page).textContent()) ?? '';
    if (!(await turnAsTold(page, sentence))) return;
  }
  throw new Error(`never came to rest: ${await instruction(page).textContent()}`);
}
/** A string that has died away shows its last figure faintly. */
export const isFaint = (page: Page) =>
  liveCents(page).evaluateAll((shown) => shown.some((e) => e.className.includes('opacity')));

/** Plucks or turns the simulated tuner as the sentence says; false where it asks for neither. */
export async function turnAsTold(page: Page, sentence: string): Promise<boolean> {
  // What has gone meanwhile is not waited for.
  const off = async () => figure((await liveCents(page).allTextContents())[0] ?? null);
  // No hand turns a string that it no longer hears.
  if (/^Bring it up|below, then up/.test(sentence) && (await isFaint(page))) {
    await page.waitForTimeout(400);
    if (await isFaint(page)) await pluck(page);
    return true;
  }
  // A surprising fall is asked for twice: 'It fell at once: pluck A2 again'.
  if (/^Pluck|: pluck /.test(sentence)) await pluck(page);
  else if (/^Bring it up/.test(sentence)) {
    const flat = Math.abs(await off());
    await page.keyboard.press(flat > 18 ? 'Shift+ArrowUp' : 'ArrowUp');
    // Close to pitch a hand waits for what it hears.
    await page.waitForTimeout(flat < 8 ? 350 : 200);
  } else if (/below, then up/.test(sentence)) {
    if ((await off()) > 16) await page.keyboard.press('Shift+ArrowDown');
    else for (let k = 0; k < 4; k++) await page.keyboard.press('ArrowDown');
    await page.waitForTimeout(450);
  } else return false;
  return true;
}

/** Does as it is told, by the pedal and the simulated pluck alone, until the sentence that ends it. */
export async function follow(page: Page, until: RegExp): Promise<void> {
  for (let i = 0; i < 120; i++) {
    const sentence = (await instruction(page).textContent()) ?? '';
    if (until.test(sentence)) return;
    // A hand waits for what comes next.
    if (!/^A moment/.test(sentence))
      await page.keyboard.press(
        /^(Pluck|At fret|Its harmonic|Sound|Once more, another|Hold|Strike|Let the A)|: pluck /.test(sentence)
          ? 'p'
          : 'PageDown',
      );
    await expect(instruction(page))
      .not.toHaveText(sentence, { timeout: 3000 })
      .catch(() => undefined);
  }
  throw new Error(`never got there: ${await instruction(page).textContent()}`);
}

/** Runs in a browser of its own whose microphone plays the samples, again and again. */
export async function withMicrophone(
  name: string,
  samples: Float32Array,
  sampleRate: number,
  run: (page: Page) => Promise<void>,
): Promise<void> {
  const { baseURL, launchOptions, viewport } = test.info().project.use;
  const args = [...(launchOptions?.args ?? []), ...fakeMicrophone(writeSound(name, samples, sampleRate))];
  const browser = await chromium.launch({ ...launchOptions, args });
  try {
    await run(
      await browser.newPage({
        baseURL: baseURL!,
        viewport: viewport!,
        permissions: ['microphone'],
      }),
    );
  } finally {
    await browser.close();
  }
}
