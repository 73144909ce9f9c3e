/** npm run bench:load: what script the first sight of the app loads, gzipped, and how long it takes. */
import { stdout } from 'node:process';
import { gzipSync } from 'node:zlib';
import { serveApp } from '../app';
import { writeSection } from '../report';

const PORT = 4193;
/** The user's bound, kB. */
const BOUND_KB = 250;
const app = await serveApp(PORT);
const lines = ['| what is opened | page, kB gzipped | workers, kB gzipped | shown after, s |', '|---|---|---|---|'];
for (const path of ['/bench', '/demo/bench', '/demo/settling', '/demo/plan']) {
  const context = await app.browser.newContext({ ...app.place, serviceWorkers: 'block' });
  const page = await context.newPage();
  const scripts = new Map<string, Promise<number>>();
  const isWorker = (url: string) => url.includes('.worker-');
  context.on('response', (response) => {
    const url = response.url();
    if (/\.js$/.test(url))
      scripts.set(
        url,
        response.body().then((body) => gzipSync(body).length),
      );
  });
  const began = performance.now();
  await page.goto(path);
  await page.getByRole('heading', { level: 1 }).waitFor({ timeout: 60000 });
  const seconds = (performance.now() - began) / 1000;
  await page.waitForLoadState('networkidle');
  const kB = { page: 0, workers: 0 };
  for (const [url, size] of scripts) {
    kB[isWorker(url) ? 'workers' : 'page'] += (await size) / 1000;
    stdout.write(`${path} ${url.split('/').pop()!} ${((await size) / 1000).toFixed(1)}\n`);
  }
  lines.push(`| ${path} | ${kB.page.toFixed(0)} | ${kB.workers.toFixed(0)} | ${seconds.toFixed(1)} |`);
  await context.close();
}
lines.push(
  '',
  `Asked: at most ${BOUND_KB} kB of script for the page. Workers load beside it; the chart's package comes with the first chart.`,
);
writeSection('First load', lines, process.cpuUsage().user / 1e6);
await app.close();
