/**
 * Does the page grow while views are opened, again and again? `npm run bench:memory -- [rounds]` (after a build): sixty
 * instruments; settling, bench and causes of one after another by the app's own links, the page never loaded anew.
 */
import { argv } from 'node:process';
import { writeLogFile } from '../../src/core/exchange';
import { serveApp } from '../app';
import { writeSection } from '../report';
import { bigLog } from '../size/big-log';
import { MINUTE } from '../../src/core/base';

const PORT = 4194;
const INSTRUMENTS = 60;
const [rounds = 4] = argv.slice(2).map(Number);
const { browser, place, close } = await serveApp(PORT);
const page = await browser.newPage(place);
const client = await page.context().newCDPSession(page);
await page.goto('/log');
const buffer = Buffer.from(writeLogFile(bigLog(INSTRUMENTS, 6, 12, Date.now() - MINUTE), Date.now()));
await page.locator('input[type=file]').setInputFiles({ name: 'log.json', mimeType: 'application/json', buffer });
await page.getByText(/new records kept/).waitFor();
await page.goto('/settling/i0');
await page.getByRole('heading', { level: 1 }).waitFor();

/** What lives in the page after all that can go has gone: MB of its heap, nodes and listeners of its document. */
async function alive() {
  await client.send('HeapProfiler.collectGarbage');
  await client.send('HeapProfiler.collectGarbage');
  const { usedSize } = await client.send('Runtime.getHeapUsage');
  const { nodes, jsEventListeners } = await client.send('Memory.getDOMCounters');
  return { mb: usedSize / 1e6, nodes, jsEventListeners };
}
const rows: string[] = [];
const note = async (what: string) => {
  const { mb, nodes, jsEventListeners } = await alive();
  rows.push(`| ${what} | ${mb.toFixed(0)} | ${nodes} | ${jsEventListeners} |`);
  process.stdout.write(`${rows.at(-1)!}\n`);
};
await note('one view');
for (let round = 1; round <= rounds; round++) {
  for (let i = 0; i < INSTRUMENTS; i++) {
    const view = ['settling', 'bench', 'causes'][i % 3]!;
    await page.evaluate((path) => {
      history.pushState({}, '', path);
      dispatchEvent(new PopStateEvent('popstate'));
    }, `/${view}/i${i}`);
    await page.waitForTimeout(700);
  }
  await note(`${round * INSTRUMENTS} views`);
}
await close();
writeSection(
  'Memory of the page',
  [
    `${INSTRUMENTS} instruments of six strings, one after another without loading the page anew; after collecting what can go.`,
    '',
    '| after | heap, MB | nodes | listeners |',
    '|---|---|---|---|',
    ...rows,
  ],
  process.cpuUsage().user / 1e6,
);
process.exit(0);
