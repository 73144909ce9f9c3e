/** npm run shots [-- NAME …]: renews docs/screenshots, or the named ones, from the demonstration, 1280 x 800. */
import { chromium, type Page } from '@playwright/test';
import { spawn } from 'node:child_process';
import { VIEWS } from '../src/app/shell/views';
import { chromiumPath, run } from './setup.mjs';

const PORT = 4186;
const base = `http://localhost:${PORT}`;
run('npm', ['run', '-s', 'build']);
const server = spawn(process.execPath, ['dist-node/server/main.js', '--demo'], {
  env: { ...process.env, PORT: String(PORT) },
  stdio: ['ignore', 'pipe', 'inherit'],
});
await new Promise((resolve) => server.stdout.once('data', resolve));
const browser = await chromium.launch({ executablePath: chromiumPath(), args: ['--no-sandbox', '--disable-gpu'] });

/** One picture: a fresh demonstration, a path, what to do there. */
const named = process.argv.slice(2);
async function shot(
  name: string,
  path: string,
  act: (page: Page) => Promise<void> = async () => {},
  colorScheme: 'light' | 'dark' = 'light',
) {
  if (named.length > 0 && !named.includes(name)) return;
  const page = await browser.newPage({ baseURL: base, viewport: { width: 1280, height: 800 }, colorScheme });
  await page.goto(path);
  await page.getByRole('heading', { level: 1 }).waitFor();
  await page.waitForTimeout(2500);
  await act(page);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
  await page.close();
}

/** In the middle of a pass: the first string plucked and ringing below the waterline. */
async function ringing(page: Page) {
  await page.keyboard.press('Enter');
  await page.waitForTimeout(500);
  await page.keyboard.press('p');
  await page.waitForTimeout(900);
}

/** Does by hand what is told, until a sentence. */
async function handsUntil(page: Page, until: RegExp) {
  for (let i = 0; i < 90; i++) {
    await page.waitForTimeout(600);
    const says = (await page.getByTestId('instruction').textContent()) ?? '';
    if (until.test(says)) return;
    const sounds = /^(Pluck|At fret|Its harmonic|Sound|Once more, another|Hold its|Strike|Ask for|Play its)/.test(says);
    if (!/^A moment/.test(says)) await page.keyboard.press(sounds ? 'p' : 'Enter');
    if (sounds) await page.waitForTimeout(1200);
  }
}

/** A string measured between its limits, its slot lubricated, and measured again. */
async function binding(page: Page) {
  await page.keyboard.press('2');
  for (const key of ['', 'l']) {
    if (key) await page.keyboard.press(key);
    await page.waitForTimeout(500);
    await page.keyboard.press('Enter');
    await handsUntil(page, /next string/);
  }
}

/** The tests of an inquiry done, up to its finding. */
async function asking(page: Page) {
  await page.keyboard.press('2');
  await handsUntil(page, /^Do the steps/);
}

/** Two strings ring, one of them a little flat, and the beats are shown. */
async function showingBeats(page: Page) {
  await page.keyboard.press('Enter');
  await handsUntil(page, /^Let both ring/);
  for (const key of ['w', 'o', 'ArrowDown', 'ArrowDown', 'p']) await page.keyboard.press(key);
  await page.waitForTimeout(3000);
}

/** New strings on the floating bridge, to the first stop. */
async function bridging(page: Page) {
  await page.getByRole('button', { name: 'New strings', exact: true }).click();
  await page.keyboard.press('Enter');
  await handsUntil(page, /and turn$/);
  await page.waitForTimeout(600);
}

/** Between two pieces: what is needed most, a string on its way to where it is left. */
async function waiting(page: Page) {
  await page.getByRole('button', { name: 'To the show' }).click();
  await page.waitForTimeout(2500);
  await page.keyboard.press('Enter');
  await handsUntil(page, /and turn$/);
  await page.keyboard.press('p');
  await page.waitForTimeout(500);
  for (let i = 0; i < 3; i++) {
    await page.keyboard.press('ArrowUp');
    await page.waitForTimeout(250);
  }
}

const ACTS: Record<string, (page: Page) => Promise<void>> = {
  // Its lines come by and by.
  rack: (page) => page.waitForTimeout(6000),
  life: (page) =>
    page
      .getByRole('columnheader', { name: 'Half last' })
      .waitFor()
      .then(() => page.waitForTimeout(4000)),
  // Its chart and its table are reckoned beside the page.
  settling: (page) =>
    page
      .locator('.plotly .points path')
      .first()
      .waitFor()
      .then(() => page.waitForTimeout(1500)),
  bench: ringing,
  causes: asking,
  friction: binding,
  ear: showingBeats,
  bridge: bridging,
  wings: waiting,
  tuning: async (page) => {
    await page.getByRole('button', { name: 'Pure fifths from A' }).click();
  },
  reference: async (page) => {
    await page.keyboard.press('3');
    await handsUntil(page, /^Press Enter to use it/);
  },
  fitting: async (page) => {
    for (let i = 0; i < 2; i++) await page.keyboard.press('Enter');
    await page.waitForTimeout(500);
  },
};
/** Pictures that are not named after the address. */
const NAMES: Record<string, string> = { ear: 'by-ear' };
/** Forms tell least: there are to be under twenty pictures. */
const LEFT_OUT = ['instrument', 'add', 'set', 'inventory'];
// A picture of every other view, and of what its first sight does not show.
for (const { path, shownAt } of VIEWS)
  if (!LEFT_OUT.includes(path)) await shot(NAMES[path] ?? path, `/demo/${shownAt}`, ACTS[path]);
await shot('bench-night', '/demo/bench/requinto', ringing, 'dark');
await shot('first', '/bench', async (page) => {
  await page.keyboard.press('p');
  await page.waitForTimeout(3000);
  await page.keyboard.press('h');
  await page.keyboard.press('p');
  await page.waitForTimeout(4000);
  await page.keyboard.press('p');
  await page.waitForTimeout(900);
});
await browser.close();
server.kill();
process.exit(0);
