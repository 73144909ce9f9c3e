/**
 * Do the views stand what the import accepts? `npm run bench:views -- [seed] [logs]` (after a build): bent logs that were accepted are
 * imported, and every view of every instrument in them is opened in headless Chromium.
 */
import { argv, exit } from 'node:process';
import { readLogFile, writeLogFile } from '../../src/core/exchange';
import type { LogRecord } from '../../src/core/log';
import { randomFrom } from '../../src/core/simulate';
import { VIEWS } from '../../src/app/shell/views';
import { serveApp } from '../app';
import { writeSection } from '../report';
import { bentLogFile, goodLog } from './records';

const PORT = 4192;
const [seed = 1, logs = 40] = argv.slice(2).map(Number);
const random = randomFrom(seed);
const good = goodLog();

const { browser, place, close } = await serveApp(PORT);
const faults: string[] = [];
let opened = 0;
for (let i = 0; i < logs; i++) {
  let records: LogRecord[] | undefined;
  while (!records) {
    const read = readLogFile(bentLogFile(good, random));
    if (read.ok) ({ records } = read);
  }
  const context = await browser.newContext(place);
  const page = await context.newPage();
  const errors: string[] = [];
  page.on('pageerror', (e) => errors.push(e.message));
  await page.goto('/log');
  const buffer = Buffer.from(writeLogFile(records, Date.now()));
  await page.locator('input[type=file]').setInputFiles({ name: 'bent.json', mimeType: 'application/json', buffer });
  await page.getByText(/new records kept/).waitFor();
  const ids = new Set(records.flatMap((r) => (r.type === 'instrument' ? [encodeURIComponent(r.instrumentId)] : [])));
  const paths = [...VIEWS.flatMap((v) => (v.of === 'all' ? [`/${v.path}`] : [...ids].map((id) => `/${v.path}/${id}`)))];
  for (const path of paths) {
    await page.goto(path);
    await page.getByRole('heading', { level: 1 }).first().waitFor();
    // The worker's answers come, and are drawn.
    await page.waitForTimeout(900);
    opened++;
    const text = (await page.locator('body').textContent()) ?? '';
    if (/This view has failed/.test(text)) errors.push('the view has failed');
    if (/NaN|Infinity|undefined|Invalid/.test(text))
      errors.push(`'${/.{0,30}(NaN|Infinity|undefined|Invalid).{0,20}/.exec(text)![0]}'`);
    if (errors.length > 0) {
      faults.push(`${path}: ${errors.splice(0)[0]!}`);
      process.stderr.write(
        `${faults.at(-1)!}\n${writeLogFile(
          records.filter((r, k) => JSON.stringify(r) !== JSON.stringify(good[k])),
          0,
        )}\n`,
      );
    }
  }
  await context.close();
}
await close();
writeSection(
  'Views on what the import accepts',
  [
    `${logs} bent logs that were accepted, seed ${seed}: ${opened} views opened.`,
    '',
    faults.length === 0
      ? 'Crashes, figures that are none: 0.'
      : `Faults: ${faults.length}: ${faults.slice(0, 5).join('; ')}`,
  ],
  process.cpuUsage().user / 1e6,
);
exit(faults.length > 0 ? 1 : 0);
