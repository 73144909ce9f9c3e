/** Does the page stand still while five instruments with 100 readings a string are recomputed? `npm run bench:page` (after a build) */
import { mkdirSync, writeFileSync } from 'node:fs';
import { writeLogFile } from '../../src/core/exchange';
import { serveApp } from '../app';
import { writeSection } from '../report';
import { bigLog } from '../size/big-log';
import { MINUTE } from '../../src/core/base';

const PORT = 4188;
const INSTRUMENTS = 5;
const STRINGS = 6;
const READINGS = 100;
const KEPT = 8;
const NOTES = ['E4', 'B3', 'G3', 'D3', 'A2', 'E2'];

const log = bigLog(INSTRUMENTS, STRINGS, READINGS, Date.now() - MINUTE);
const { browser, place, close } = await serveApp(PORT);
const page = await browser.newPage(place);
mkdirSync('.tmp', { recursive: true });
writeFileSync('.tmp/big-log.json', writeLogFile(log, Date.now()));
await page.goto('/log');
await page.locator('input[type=file]').setInputFiles('.tmp/big-log.json');
await page.getByText(/new records kept/).waitFor();
const rows: string[] = [];
for (const path of ['/bench/i0', '/settling/i0', '/plan']) {
  await page.goto(path === '/bench/i0' ? path : '/bench/i0');
  await page.getByRole('heading', { level: 1 }).waitFor();
  await page.waitForTimeout(6000);
  if (path !== '/bench/i0') {
    await page
      .getByRole('link', { name: path === '/plan' ? 'Plan' : 'Settling', exact: true })
      .first()
      .click();
    await page.waitForTimeout(6000);
  }
  await page.evaluate(() => {
    const w = window as unknown as { long: number[]; from: number };
    w.long = [];
    new PerformanceObserver((list) =>
      w.long.push(
        ...list.getEntries().flatMap((e) => (e.startTime > w.from && e.startTime < w.from + 2400 ? [e.duration] : [])),
      ),
    ).observe({ type: 'longtask' });
  });
  for (let i = 0; i < KEPT; i++) {
    if (path === '/bench/i0') await typeFigure(-1 - 0.1 * i);
    else await keepElsewhere(NOTES.length - 1 - (i % NOTES.length), -1 - 0.1 * i);
    await page.waitForTimeout(2500);
  }
  const long = await page.evaluate(() => (window as unknown as { long: number[] }).long);
  rows.push(`| ${path} | ${KEPT} | ${long.length} | ${long.length > 0 ? Math.max(...long).toFixed(0) : 'under 50'} |`);
}

/** A reading kept by hand on this page; what happens from the Enter on counts. */
async function typeFigure(cents: number): Promise<void> {
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Type a figure from another device' }).click();
  await page.getByLabel('Cents from the target, or Hz').fill(String(cents));
  await page.evaluate(() => ((window as unknown as { from: number }).from = performance.now()));
  await page.keyboard.press('Enter');
}

/** A reading kept in another tab, which tells this one. */
async function keepElsewhere(string: number, cents: number): Promise<void> {
  const [reading] = log.filter((r) => r.type === 'reading' && r.stringId === `s${string}`);
  const record = { ...reading, id: `elsewhere${string}${cents}`, atMs: Date.now(), purpose: 'as-found', cents };
  await page.evaluate((r) => {
    (window as unknown as { from: number }).from = performance.now();
    new BroadcastChannel('slow-anchor-own').postMessage([r]);
  }, record);
}

await close();
writeSection(
  'Page',
  [
    `${INSTRUMENTS} instruments, ${STRINGS} strings each, ${READINGS} readings a string; the page's main thread in headless Chromium. A task counts as long from 50 ms.`,
    '',
    '| view | readings kept | long tasks in the 2.4 s after each | longest, ms |',
    '|---|---|---|---|',
    ...rows,
  ],
  0,
);
process.exit(0);
