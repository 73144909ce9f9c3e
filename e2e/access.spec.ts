import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { existsSync, readFileSync, statSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { extname, join } from 'node:path';
import { VIEWS } from '../src/app/shell/views';
import { addInstrument, collectErrors, instruction, openDemo } from './bench';

/** Goes to another view as a link does, without loading the app anew. */
const follow = (page: Page, path: string) =>
  page.evaluate((to) => {
    history.pushState({}, '', to);
    dispatchEvent(new PopStateEvent('popstate'));
  }, path);

const PATHS = [...VIEWS.map((view) => `/demo/${view.shownAt}`), '/bench'];
const TYPES: Record<string, string> = {
  '.html': 'text/html',
  '.js': 'text/javascript',
  '.css': 'text/css',
  '.json': 'application/json',
  '.svg': 'image/svg+xml',
};
const HALF = Math.ceil(PATHS.length / 2);
for (const [half, paths] of [PATHS.slice(0, HALF), PATHS.slice(HALF)].entries())
  test(`axe finds nothing serious by day, nor too little contrast by night, half ${half + 1}`, async ({ page }) => {
    test.setTimeout(180_000);
    const errors = collectErrors(page);
    await openDemo(page);
    for (const path of paths) {
      await follow(page, path);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await expect(page.getByText(/^Opening/)).toHaveCount(0);
      for (const night of [false, true]) {
        if (night) await page.getByRole('button', { name: 'Use the night chart' }).click();
        await expect(page.locator('html')).toHaveAttribute('data-chart', night ? 'night' : 'day');
        // Colours alone differ between the charts.
        const axe = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] });
        const { violations } = await (night ? axe.withRules('color-contrast') : axe).analyze();
        const grave = violations.filter((v) => v.impact === 'serious' || v.impact === 'critical');
        // Soft: one view's fault does not hide another's.
        expect.soft(grave.map((v) => `${path} ${v.id}: ${v.nodes.map((n) => n.html).join(' ')}`)).toEqual([]);
      }
      await page.getByRole('button', { name: 'Use the day chart' }).click();
    }
    expect(errors).toEqual([]);
  });

test('a clicked button does not take the pedal’s Enter and Space', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Play the note' }).click();
  await page.keyboard.press('Enter');
  await expect(instruction(page)).toContainText(/pluck A4/i);
  await page.getByRole('button', { name: 'Next string' }).click();
  await page.keyboard.press(' ');
  await expect(instruction(page)).toHaveText('Press Space to listen');
});

for (const [name, width, height] of [
  ['a tablet', 820, 1100],
  ['a small screen', 1024, 768],
  ['a phone', 390, 844],
] as const) {
  test(`nothing is cut off on ${name}`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await openDemo(page);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
    await expect(instruction(page)).toBeVisible();
    await expect(page.getByRole('button', { name: 'Listen' })).toBeInViewport();
    // The other views stack alike at every width: once is enough.
    if (width !== 820) return;
    for (const path of ['settling/requinto', 'octave/baritone', 'plan', 'trial', 'log', 'set/requinto']) {
      await page.goto(`/demo/${path}`);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      const wide = await page.evaluate(() => document.documentElement.scrollWidth);
      expect(`${path} ${wide > width ? wide : 'fits'}`).toBe(`${path} fits`);
    }
  });
}

test('the server’s headers allow the app’s own files only', async ({ request }) => {
  const page = await request.get('/bench');
  expect(page.status()).toBe(200);
  const headers = page.headers();
  expect(headers['content-security-policy']).toContain("default-src 'self'");
  expect(headers['content-security-policy']).not.toContain('unsafe-');
  expect(headers['permissions-policy']).toContain('microphone=(self)');
  expect(headers['x-content-type-options']).toBe('nosniff');
  expect(headers['referrer-policy']).toBe('no-referrer');
  const script = /assets\/[^"]+\.js/.exec(await page.text())![0];
  expect((await request.get(`/${script}`)).headers()['cache-control']).toContain('immutable');
  expect((await request.get('/assets/none.js')).status()).toBe(404);
  // An address with a dot in it is one of the app's; a broken one says nothing of the insides.
  expect((await request.get('/bench/a.b')).headers()['content-type']).toContain('text/html');
  const broken = await request.get('/%');
  expect([broken.status(), await broken.text()]).toEqual([400, 'This is no address of Slow Anchor.']);
});

/** The headers that the README asks of whoever serves dist/, by their names. */
const ASKED = new Map(
  [...readFileSync('README.md', 'utf8').matchAll(/^ {6}([A-Z][A-Za-z-]+): (.+)$/gm)].map(([, name, value]) => [
    name!,
    value!,
  ]),
);

test('dist/ is all there is to serve: any host of plain files does, with the headers of the README', async ({
  page,
  request,
}) => {
  const own = (await request.get('/bench')).headers();
  const plain = (header: string | undefined) => header?.replaceAll(/;\s*/g, '; ');
  for (const [name, value] of ASKED) expect(plain(own[name.toLowerCase()])).toBe(value);
  expect(ASKED.size).toBe(4);
  const host = createServer((asked, answer) => {
    const path = new URL(asked.url!, 'http://host').pathname;
    const file = join('dist', path);
    const there = existsSync(file) && statSync(file).isFile();
    for (const [name, value] of ASKED) answer.setHeader(name, value);
    if (!there && path.startsWith('/assets/')) return answer.writeHead(404).end();
    const served = there ? file : 'dist/index.html';
    answer.setHeader('Content-Type', TYPES[extname(served)] ?? 'application/octet-stream');
    return answer.end(readFileSync(served));
  });
  await new Promise<void>((resolve) => host.listen(0, '127.0.0.1', resolve));
  const errors = collectErrors(page);
  const { port } = host.address() as AddressInfo;
  await page.goto(`http://localhost:${port}/demo/settling/requinto`);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(page.locator('.js-plotly-plot .scatterlayer').first()).toBeVisible({ timeout: 20_000 });
  expect(errors).toEqual([]);
  await new Promise((resolve) => host.close(resolve));
});

test('it works without a network once it was opened', async ({ page, context }) => {
  await addInstrument(page, 'Viola');
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  await context.setOffline(true);
  await page.reload();
  await expect(page.getByRole('heading', { level: 1, name: 'Viola' })).toBeVisible();
  await page.goto('/log');
  await expect(page.getByRole('heading', { level: 1, name: 'History' })).toBeVisible();
});
