/**
 * One instrument that a monitor listened to: 100 000 readings, one a minute. `npm run bench:monitor -- [readings]` (after a build): the
 * import, the bench, a figure kept, Settling, in headless Chromium.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { writeLogFile } from '../../src/core/exchange';
import { RECORD_VERSION, type LogRecord } from '../../src/core/log';
import { DEFAULT_A4_HZ, targetFrequencyHz } from '../../src/core/music';
import { randomFrom } from '../../src/core/simulate';
import { serveApp, typeInPage } from '../app';
import { writeSection } from '../report';
import { longest, seconds, watchTasks } from './watch';
import { MINUTE } from '../../src/core/base';

const READINGS = Number(process.argv[2] ?? 100_000);
const NOTES = ['E4', 'B3', 'G3', 'D3', 'A2', 'E2'];
const random = randomFrom(5);
const each = Math.floor(READINGS / NOTES.length);
const startMs = Date.now() - (each + 5) * MINUTE;
const base = { version: RECORD_VERSION, zoneMin: 0, instrumentId: 'watched' } as const;

const reading = (stringId: string, note: string, minute: number): LogRecord => {
  const targetHz = targetFrequencyHz(note, DEFAULT_A4_HZ)!;
  const cents = -5 * Math.log1p(minute / 30) + Math.sin(minute / 900) + 0.3 * random.normal();
  const frequencyHz = targetHz * Math.pow(2, cents / 1200);
  return {
    ...base,
    id: `${stringId}-${minute}`,
    type: 'reading',
    stringId,
    atMs: startMs + minute * MINUTE,
    purpose: 'as-found',
    source: 'microphone',
    frequencyHz,
    cents,
    sigmaCents: 0.2,
    targetHz,
    a4Hz: DEFAULT_A4_HZ,
    partials: [1, 2, 3, 4].map((n) => ({ n, frequencyHz: n * frequencyHz, sigmaHz: 0.01 })),
  };
};
const strings = NOTES.map((note, i) => ({ stringId: `s${i}`, note }));
const log: LogRecord[] = [
  {
    ...base,
    id: 'i',
    type: 'instrument',
    atMs: startMs,
    name: 'Watched',
    family: 'guitar-nylon',
    strings: strings.map((s) => ({ ...s, lengthMm: 650, material: 'plain-nylon' as const, gaugeMm: 0.8 })),
  },
  ...strings.map(({ stringId }): LogRecord => ({
    ...base,
    id: `f${stringId}`,
    type: 'fitted',
    stringId,
    atMs: startMs,
  })),
  ...Array.from({ length: each }, (_, k) => strings.map((s) => reading(s.stringId, s.note, k + 1))).flat(),
];
mkdirSync('.tmp', { recursive: true });
writeFileSync('.tmp/watched-log.json', writeLogFile(log, Date.now()));

const { browser, place, close } = await serveApp(4188, '--disable-dev-shm-usage');
const page = await browser.newPage(place);
page.on('pageerror', (e) => process.stderr.write(`${e.message}\n`));
const rows: string[] = [];
const row = (line: string): void => {
  process.stdout.write(`${line}\n`);
  rows.push(line);
};
await page.goto('/log');
await page.getByTestId('record-count').waitFor();
let from = performance.now();
await page.locator('input[type=file]').setInputFiles('.tmp/watched-log.json');
await page.getByText(/new entries, about/).waitFor({ timeout: 300000 });
row(`| import of ${log.length} records | | ${seconds(from)} s |`);
const said = () =>
  page.getByRole('complementary', { name: 'What to do now' }).getByText('Fallen in all').waitFor({ timeout: 120000 });
await page.goto('/bench/watched');
await said();
from = performance.now();
await page.reload();
await page.getByRole('heading', { level: 1, name: 'Watched', exact: true }).waitFor({ timeout: 120000 });
const first = seconds(from);
await said();
row(
  `| the bench after a reload: its heading; what it says of the string in hand | 2 s | ${first} s; ${seconds(from)} s |`,
);
await page.waitForTimeout(4000);
const kept: number[] = [];
await watchTasks(page);
for (let i = 0; i < 6; i++) {
  await typeInPage(page, String(-30 - 0.1 * i), false);
  const before = performance.now();
  await page.keyboard.press('Enter');
  await page
    .getByText(/ saved/)
    .first()
    .waitFor();
  kept.push(performance.now() - before);
  await page.waitForTimeout(1500);
}
kept.sort((a, b) => a - b);
row(
  `| a figure kept: from the key to its sentence, median and most of 6; longest task on the page | 100 ms | ${kept[3]!.toFixed(0)} ms, ${kept[5]!.toFixed(0)} ms; ${(await longest(page)).toFixed(0)} ms |`,
);
from = performance.now();
await page.goto('/settling/watched');
await page.getByRole('table').first().getByRole('row').nth(3).waitFor({ timeout: 120000 });
row(`| Settling, opened anew: its table | 2 s | ${seconds(from)} s |`);
await page.locator('.js-plotly-plot .scatterlayer').first().waitFor({ timeout: 120000 });
row(`| and its chart | | ${seconds(from)} s |`);
await close();
writeSection(
  'A monitor for weeks',
  [
    `One instrument of six strings, ${log.length} records, a reading of every string every minute, in headless Chromium.`,
    '',
    '| what | asked | measured |',
    '|---|---|---|',
    ...rows,
  ],
  process.cpuUsage().user / 1e6,
);
process.exit(0);
