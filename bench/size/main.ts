/**
 * A busy rack in the page: 200 instruments, 12 strings each, 200 readings a string. `npm run bench:size -- [instruments]` (after a
 * build): the import, the first view after a reload, all instruments in one table, Settling, a figure kept, and the memory that it
 * takes, in headless Chromium.
 */
import type { CDPSession } from '@playwright/test';
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { writeLogFile } from '../../src/core/exchange';
import { serveApp, typeInPage } from '../app';
import { writeSection } from '../report';
import { bigLog } from './big-log';
import { longest, seconds, watchTasks } from './watch';
import { MINUTE } from '../../src/core/base';

const PORT = 4189;
const INSTRUMENTS = Number(process.argv[2] ?? 200);
const [STRINGS, READINGS] = [12, 200];
const KEPT = 8;
const log = bigLog(INSTRUMENTS, STRINGS, READINGS, Date.now() - MINUTE);

const { browser, place, close } = await serveApp(PORT, '--disable-dev-shm-usage');
const page = await browser.newPage(place);
page.on('pageerror', (e) => process.stderr.write(`${e.message}\n`));
mkdirSync('.tmp', { recursive: true });
writeFileSync('.tmp/busy-log.json', writeLogFile(log, Date.now()));

/** CPU of the page's main thread so far, ms. */
async function taskMs(session: CDPSession): Promise<number> {
  const { metrics } = await session.send('Performance.getMetrics');
  return 1000 * metrics.find((m) => m.name === 'TaskDuration')!.value;
}
/** What the largest of the browser's page processes, the page and its workers, holds in memory, MB; the system says. */
function residentMb(): number {
  const pages = readdirSync('/proc').filter((pid) => /^\d+$/.test(pid));
  const sizes = pages.map((pid) => {
    try {
      if (!readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('--type=renderer')) return 0;
      return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
    } catch {
      // It has ended meanwhile.
      return 0;
    }
  });
  return Math.max(...sizes);
}
const later = async (ms: number): Promise<number> => {
  await page.waitForTimeout(ms);
  return residentMb();
};
const rows: string[] = [];
/** Shown at once: a later step that fails loses nothing. */
const row = (line: string): void => {
  process.stdout.write(`${line}\n`);
  rows.push(line);
};

await page.goto('/log');
await page.getByTestId('record-count').waitFor();
await watchTasks(page);
let from = performance.now();
await page.locator('input[type=file]').setInputFiles('.tmp/busy-log.json');
await page.getByText(/is being checked/).waitFor();
await page.getByText(/new entries, about/).waitFor({ timeout: 300000 });
const imported = seconds(from);
// What was kept is told to the page in slices.
await page.getByText(`${log.length}`, { exact: true }).waitFor({ timeout: 120000 });
row(
  `| import of ${log.length} records, with progress: time; all shown; longest task on the page | 60 s; 200 ms | ${imported} s; ${seconds(from)} s; ${(await longest(page)).toFixed(0)} ms |`,
);

from = performance.now();
await page.goto('/bench/i0');
await page.getByRole('heading', { level: 1, name: 'Guitar 1', exact: true }).waitFor({ timeout: 120000 });
await page.getByRole('listitem').filter({ hasText: 'settling' }).first().waitFor({ timeout: 120000 });
const lanes = seconds(from);
await page.reload();
from = performance.now();
await page.reload();
await page.getByRole('heading', { level: 1, name: 'Guitar 1', exact: true }).waitFor({ timeout: 120000 });
const first = seconds(from);
await page
  .getByRole('complementary', { name: 'What to do now' })
  .getByText('Fallen in all')
  .waitFor({ timeout: 120000 });
row(
  `| first view after a reload: its lanes; what it says of the string in hand | 3 s | ${first} s; ${seconds(from)} s (first opening ${lanes} s) |`,
);

row(`| memory of the page with its workers, half a minute after that | | ${(await later(30000)).toFixed(0)} MB |`);

from = performance.now();
await page.goto('/settling/i0');
await page.getByRole('table').first().getByRole('row').nth(3).waitFor({ timeout: 120000 });
row(`| Settling of that instrument, opened anew | 3 s | ${seconds(from)} s |`);

from = performance.now();
await page.goto('/rack');
await page.getByRole('row').filter({ hasText: 'Guitar' }).first().waitFor({ timeout: 120000 });
row(`| all instruments: first rows after a reload | 3 s | ${seconds(from)} s |`);
// Every instrument has its line before it is scrolled.
from = performance.now();
await page.getByText(/looked at so far/).waitFor({ state: 'hidden', timeout: 300000 });
row(
  `| all instruments: every line worked out; memory then | | ${seconds(from)} s; ${(await later(5000)).toFixed(0)} MB |`,
);
await watchTasks(page);
await page.getByRole('row').filter({ hasText: 'Guitar' }).first().hover();
for (let i = 0; i < 40; i++) {
  await page.mouse.wheel(0, i < 30 ? 400 : -600);
  await page.waitForTimeout(60);
}
row(`| scrolled from end to end and back: longest task | 100 ms | ${(await longest(page)).toFixed(0)} ms |`);
await watchTasks(page);
await page.getByRole('table', { name: 'Instruments' }).getByRole('link').first().click();
await page.getByRole('region', { name: 'Its life' }).waitFor({ timeout: 120000 });
await page.waitForTimeout(3000);
row(`| an instrument opened from there: longest task | 100 ms | ${(await longest(page)).toFixed(0)} ms |`);

await page.goto('/bench/i0');
await page.getByRole('heading', { level: 1, name: 'Guitar 1', exact: true }).waitFor({ timeout: 120000 });
// The rack is filled in by and by, from the worker: a figure is kept when that is done.
await page.waitForTimeout(30000);
const session = await page.context().newCDPSession(page);
await session.send('Performance.enable');
const costs: number[] = [];
const idle: number[] = [];
for (let i = 0; i < KEPT; i++) {
  const rest = await taskMs(session);
  await page.waitForTimeout(1500);
  idle.push((await taskMs(session)) - rest);
  await typeInPage(page, String(-1 - 0.1 * i), false);
  await page.waitForTimeout(400);
  const before = await taskMs(session);
  await page.keyboard.press('Enter');
  await page.waitForTimeout(1500);
  costs.push((await taskMs(session)) - before);
}
const middle = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1]!;
row(
  `| a figure kept: CPU of the page in the 1.5 s after, median and most of ${KEPT} (the same time at rest: ${middle(idle).toFixed(0)}) | 100 ms | ${middle(costs).toFixed(0)} ms, ${Math.max(...costs).toFixed(0)} ms |`,
);
await close();
writeSection(
  'A busy rack',
  [
    `${INSTRUMENTS} instruments, ${STRINGS} strings each, ${READINGS} readings a string: ${log.length} records, in headless Chromium.`,
    '',
    '| what | asked | measured |',
    '|---|---|---|',
    ...rows,
  ],
  process.cpuUsage().user / 1e6,
);
process.exit(0);
