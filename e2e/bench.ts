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

/** The demonstration's sound is heard so many times faster than it was, where the machine keeps up; its voice has this seed. */
const PACE = 8;
const SEED = 5;

/** Opens a view whose simulated sound has its own pace and seed. */
export const openAt = (page: Page, path: string) => page.goto(`${path}?pace=${PACE}&seed=${SEED}`);

/** Opens the demonstration bench as the setup left it: just begun. */
export async function openDemo(page: Page): Promise<void> {
  await openAt(page, '/demo/bench');
  await expect(page.getByRole('heading', { level: 1, name: 'Requinto, nylon' })).toBeVisible();
  await expect(panel(page).getByText('Fallen in all')).toBeVisible();
}

/** Adds an instrument of a family, strung just now unless said otherwise, to the user's own bench, and opens it there. */
export async function addInstrument(page: Page, family: string, strung?: string, name = family): Promise<void> {
  await page.goto('/add');
  if (strung) await page.getByLabel(strung).check();
  await page.getByRole('button', { name: family, exact: true }).click();
  await page.getByRole('button', { name: 'Add it' }).click();
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

/** Plucks, and looks up until the instruction has moved on; it may not, where a note only went by. */
async function pluck(page: Page): Promise<void> {
  const before = (await instruction(page).textContent()) ?? '';
  await page.keyboard.press('p');
  await expect(instruction(page))
    .not.toHaveText(before, { timeout: 4000 })
    .catch(() => undefined);
}

/** Turns a little, and looks up until the figure is another. */
async function turn(page: Page, ...keys: string[]): Promise<void> {
  const before = (await liveCents(page).allTextContents())[0] ?? '';
  for (const key of keys) await page.keyboard.press(key);
  await expect(liveCents(page))
    .not.toHaveText(before, { timeout: 2000 })
    .catch(() => undefined);
}

/** Plucks or turns the simulated tuner as the instruction says, until it is said that this is so. */
export async function doAsTold(page: Page, so: () => Promise<boolean>): Promise<void> {
  for (let i = 0; i < 400; i++) {
    if (await so()) return;
    const sentence = (await instruction(page).allTextContents())[0] ?? '';
    const [shown] = await liveCents(page).evaluateAll((all) =>
      all.map((e) => ({ text: e.textContent, faint: e.className.includes('opacity') })),
    );
    const cents = figure(shown?.text ?? null);
    const turns = /^Bring it up|below, then up/.test(sentence);
    // No hand turns a string that it no longer hears.
    if (/^Pluck|: pluck /.test(sentence) || (turns && shown?.faint)) await pluck(page);
    else if (/^Bring it up/.test(sentence)) await turn(page, cents < -18 ? 'Shift+ArrowUp' : 'ArrowUp');
    else if (turns && cents > 16) await turn(page, 'Shift+ArrowDown');
    else if (turns) await turn(page, 'ArrowDown', 'ArrowDown', 'ArrowDown', 'ArrowDown');
    else
      await expect(instruction(page))
        .not.toHaveText(sentence, { timeout: 1000 })
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
