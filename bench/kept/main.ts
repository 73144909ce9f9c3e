/**
 * Tabs killed at random moments: `npm run bench:kept -- [seed] [kills] [name of a trial]` (after a build). Figures typed and plucked, files of 5 000 and
 * 50 000 records, a log of many small writes tidied up, the demonstration begun anew, two tabs at once; after each kill a new tab
 * opens the log and it is compared with what was shown as kept. Backups in a folder, a browser that was cleared, a flipped bit, a full disk.
 */
import type { BrowserContext, Page } from '@playwright/test';
import { mkdirSync, writeFileSync } from 'node:fs';
import { argv, exit, stderr } from 'node:process';
import { readLogFile, writeLogFile } from '../../src/core/exchange';
import { randomFrom } from '../../src/core/simulate';
import { serveApp, typeInPage } from '../app';
import { writeSection } from '../report';
import { bigLog } from '../size/big-log';
import { MINUTE } from '../../src/core/base';

const PORT = 4191;
const [seed = 1, kills = 400] = argv.slice(2, 4).map(Number);
/** One kind of trial alone, by its name. */
const alone = argv[4];
const random = randomFrom(seed);

const { browser, place, close } = await serveApp(PORT, '--autoplay-policy=no-user-gesture-required');
mkdirSync('.tmp', { recursive: true });
const SIZES = [5000, 50000];
for (const size of SIZES) {
  const log = bigLog(Math.round(size / 500), 4, 124, Date.now() - MINUTE).slice(0, size);
  writeFileSync(`.tmp/log-${size}.json`, writeLogFile(log, Date.now()));
}

const faults: string[] = [];
const fault = (what: string): void => {
  faults.push(what);
  stderr.write(`${what}\n`);
};

/** In the page: whatever is said to be kept goes to the console at once. As text: a compiled function brings helpers along. */
const LISTEN = `
  let said = '';
  new MutationObserver(() => {
    const at = (id) => document.querySelector('[data-testid="' + id + '"]')?.textContent;
    const text = at('message') ?? at('log-message') ?? '';
    if (text !== said && / saved |new entries/.test(text) && !/not saved|held in memory/.test(text)) console.log('KEPT ' + text);
    said = text;
  }).observe(document, { subtree: true, childList: true, characterData: true });
`;

/** A tab that notes every figure said to be kept the moment it is said. */
async function open(context: BrowserContext, path: string, kept: string[]): Promise<Page> {
  const page = await context.newPage();
  page.on('console', (m) => {
    if (m.text().startsWith('KEPT ')) kept.push(m.text().slice(5));
  });
  await page.addInitScript({ content: LISTEN });
  await page.goto(path);
  return page;
}

/** Kills the tab's process; what the tab was doing ends there. */
async function kill(page: Page): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const crashed = page.waitForEvent('crash');
  void session.send('Page.crash').catch(() => undefined);
  await crashed;
  await page.close();
}

/** Everything in the store, read by hand. */
const stored = (page: Page, world: string) =>
  page.evaluate(async (name) => {
    const database = await new Promise<IDBDatabase>((resolve, reject) => {
      const request = indexedDB.open(name);
      request.onsuccess = () => resolve(request.result);
      request.onerror = () => reject(request.error!);
    });
    const shelf = database.transaction('records').objectStore('records');
    const [keys, batches] = await Promise.all(
      [shelf.getAllKeys(), shelf.getAll()].map(
        (request) =>
          new Promise<unknown[]>((resolve, reject) => {
            request.onsuccess = () => resolve(request.result as unknown[]);
            request.onerror = () => reject(request.error!);
          }),
      ),
    );
    database.close();
    // A write in pieces counts when all of them are there.
    const there = (batches as { id: string; cents?: number; packed?: Uint8Array<ArrayBuffer> }[][]).filter((_, i) => {
      const piece = /^(.+:)\d+\/(\d+)$/.exec(String(keys![i]));
      return !piece || keys!.filter((k) => String(k).startsWith(piece[1]!)).length === Number(piece[2]);
    });
    const records = new Map<string, { cents?: number }>();
    for (const entry of there.flat()) {
      if (!entry.packed) records.set(entry.id, entry);
      else {
        const text = new Blob([entry.packed]).stream().pipeThrough(new DecompressionStream('gzip'));
        for (const r of (await new Response(text).json()) as { id: string; cents?: number }[]) records.set(r.id, r);
      }
    }
    return {
      count: records.size,
      cents: [...records.values()].flatMap((r) => (r.cents === undefined ? [] : [r.cents])),
    };
  }, `slow-anchor-${world}`);

const pause = (page: Page, most: number) => page.waitForTimeout(most * random.uniform() ** 2);
let compared = 0;
let figure = 0;
/** A figure that nobody typed before. */
const nextFigure = () => (++figure / 10) % 900;

async function addOne(page: Page): Promise<void> {
  await page.goto('/add');
  await page.getByRole('button', { name: 'Ukulele', exact: true }).click();
  await page.getByRole('button', { name: 'Add it' }).click();
  await page.getByRole('heading', { level: 1, name: 'Ukulele' }).waitFor();
  await page.keyboard.press('Enter');
}

const type = (page: Page, cents: number): Promise<void> => typeInPage(page, cents.toFixed(1));

/** What a figure's sentence says was kept, cents. */
const centsIn = (sentence: string) => Number(/([+−]?\d+\.\d) ±/.exec(sentence)?.[1]?.replace('−', '-') ?? NaN);

function check(what: string, kept: string[], cents: readonly number[]): void {
  for (const sentence of kept) {
    const said = centsIn(sentence);
    if (Number.isFinite(said)) compared++;
    if (Number.isFinite(said) && !cents.some((c) => Math.abs(c - said) < 0.051))
      fault(`${what}: '${sentence}' is lost`);
  }
}

type Trial = (context: BrowserContext, what: string) => Promise<void>;

const typed: Trial = async (context, what) => {
  const kept: string[] = [];
  const page = await open(context, '/bench', kept);
  await addOne(page);
  for (let k = 0; k < 3; k++) {
    await type(page, nextFigure());
    await pause(page, 120);
  }
  await kill(page);
  const after = await open(context, '/bench', []);
  await after.getByRole('heading', { level: 1, name: 'Ukulele' }).waitFor();
  check(what, kept, (await stored(after, 'own')).cents);
};

const plucked: Trial = async (context, what) => {
  const kept: string[] = [];
  const page = await open(context, '/demo/bench', kept);
  await page.getByRole('heading', { level: 1, name: 'Requinto, nylon' }).waitFor();
  await page.keyboard.press('Enter');
  await page.waitForTimeout(300);
  await page.keyboard.press('p');
  await page.waitForTimeout(1200);
  await pause(page, 600);
  await kill(page);
  const after = await open(context, '/demo/bench', []);
  await after.getByRole('heading', { level: 1, name: 'Requinto, nylon' }).waitFor();
  check(what, kept, (await stored(after, 'demo')).cents);
};

const imported =
  (size: number): Trial =>
  async (context, what) => {
    const kept: string[] = [];
    const page = await open(context, '/log', kept);
    await page.getByTestId('record-count').waitFor();
    const before = (await stored(page, 'own')).count;
    await page.locator('input[type=file]').setInputFiles(`.tmp/log-${size}.json`);
    // Around the moment when it is written.
    await page
      .getByText(new RegExp(`is being checked, ${size > 9000 ? 9 : ''}`))
      .waitFor({ timeout: 60000 })
      .catch(() => undefined);
    await pause(page, size > 9000 ? 2500 : 900);
    await kill(page);
    const after = await open(context, '/log', []);
    await after.getByTestId('record-count').waitFor({ timeout: 60000 });
    const { count } = await stored(after, 'own');
    // With the entry that says what came.
    if (count !== before && count !== before + size + 1) fault(`${what}: ${count - before} of ${size} are there`);
    if (kept.length > 0 && count === before) fault(`${what}: '${kept[0]!}' is lost`);
    if (Number(await after.getByTestId('record-count').textContent()) !== count) fault(`${what}: not all are shown`);
  };

const reset: Trial = async (context, what) => {
  const page = await open(context, '/demo/bench', []);
  await page.getByRole('heading', { level: 1, name: 'Requinto, nylon' }).waitFor();
  const whole = (await stored(page, 'demo')).count;
  await page.getByRole('button', { name: 'Start it over' }).click();
  await pause(page, 250);
  await kill(page);
  const after = await open(context, '/demo/bench', []);
  await after
    .getByRole('heading', { level: 1, name: 'Requinto, nylon' })
    .waitFor({ timeout: 20000 })
    .catch(() => fault(`${what}: the demonstration does not open`));
  const { count } = await stored(after, 'demo');
  if (count !== whole) fault(`${what}: ${count} of ${whole} records`);
};

const twoTabs: Trial = async (context, what) => {
  const kept: string[] = [];
  const page = await open(context, '/bench', kept);
  await addOne(page);
  const other = await open(context, new URL(page.url()).pathname, kept);
  await other.getByRole('heading', { level: 1, name: 'Ukulele' }).waitFor();
  await other.keyboard.press('2');
  await Promise.all([type(page, nextFigure()), type(other, nextFigure())]);
  await pause(page, 100);
  await Promise.all([kill(page), type(other, nextFigure())]);
  await pause(other, 200);
  await kill(other);
  const after = await open(context, '/bench', []);
  await after.getByRole('heading', { level: 1, name: 'Ukulele' }).waitFor();
  check(what, kept, (await stored(after, 'own')).cents);
};

/** The folder that is chosen: the browser's own, a real handle without a dialogue. */
const FOLDER = `window.showDirectoryPicker = () => navigator.storage.getDirectory().then((d) => d.getDirectoryHandle('copies', { create: true }));`;

/** What lies in the folder: how many records each whole backup has, by its name. */
async function backups(page: Page, what: string): Promise<Map<string, number>> {
  const texts = await page.evaluate(async () => {
    const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('copies', { create: true });
    const all: [string, string][] = [];
    for await (const [name, handle] of folder as unknown as AsyncIterable<[string, FileSystemFileHandle]>)
      all.push([name, await (await handle.getFile()).text()]);
    return all;
  });
  const found = new Map<string, number>();
  // What was cut off has the name of a part.
  for (const [name, text] of texts.filter(([name]) => name.endsWith('.json'))) {
    const read = readLogFile(text);
    if (read.ok) found.set(name, read.records.length);
    else fault(`${what}: ${name} is no whole backup`);
  }
  return found;
}
const toFolder = (page: Page) => page.getByRole('button', { name: 'Back up to a folder by itself' }).click();
const toldBackup = (page: Page) => page.getByText(/^Backed up to .*: (\d+) entries/);

/** A log with a long import, and a folder to back up to. */
async function withFolder(context: BrowserContext): Promise<{ page: Page; own: string }> {
  const page = await open(context, '/bench', []);
  await addOne(page);
  const own = new URL(page.url()).pathname;
  await page.goto('/log');
  await page.locator('input[type=file]').first().setInputFiles('.tmp/log-5000.json');
  await page.getByText(/new entries, about/).waitFor();
  await page.addInitScript({ content: FOLDER });
  await page.reload();
  await page.getByTestId('record-count').waitFor();
  return { page, own };
}

const backedUp: Trial = async (context, what) => {
  const { page } = await withFolder(context);
  const before = (await stored(page, 'own')).count;
  await toFolder(page);
  // One before that is whole: the next one is killed.
  const whole = random.uniform() < 0.5;
  if (whole) {
    await toldBackup(page).waitFor();
    await page.getByRole('button', { name: 'Write to copies now' }).click();
  }
  await pause(page, 400);
  const said = !whole && (await toldBackup(page).count()) > 0;
  await kill(page);
  const after = await open(context, '/log', []);
  await after.getByTestId('record-count').waitFor();
  if ((await stored(after, 'own')).count !== before) fault(`${what}: the log is not what it was`);
  const found = await backups(after, what);
  if ((whole || said) && ![...found.values()].includes(before)) fault(`${what}: the backup that was told is gone`);
  if ([...found.values()].some((n) => n !== before)) fault(`${what}: a backup has ${[...found.values()].join()}`);
};

/** The browser is cleared, the folder is chosen again: the backup of before is there for good. */
const cleared: Trial = async (context, what) => {
  const { page } = await withFolder(context);
  await toFolder(page);
  await toldBackup(page).waitFor();
  const [[full, had] = ['', 0]] = await backups(page, what);
  await page.evaluate(async () => {
    for (const { name } of await indexedDB.databases()) indexedDB.deleteDatabase(name!);
  });
  await page.reload();
  await addOne(page);
  await page.goto('/log');
  await toFolder(page);
  await page.getByText(/^Here is a backup of/).waitFor();
  const back = random.uniform() < 0.5;
  await page.getByRole('button', { name: back ? 'Bring it back' : 'Keep it and begin a new one' }).click();
  await pause(page, 1500);
  await kill(page);
  const after = await open(context, '/log', []);
  await after.getByTestId('record-count').waitFor();
  const found = await backups(after, what);
  // Brought back, the newer one has more: then the older one of that day is needless.
  const kept = found.get(full) === had || Math.max(0, ...found.values()) > had;
  if (!kept) fault(`${what}: of ${had} entries ${[...found.values()].join()} are there`);
  const { count } = await stored(after, 'own');
  if (count !== 5 && count < had) fault(`${what}: ${count} of ${had} came back`);
};

/** One bit of one packed chapter flips; nothing else is lost, or told otherwise. */
const bent: Trial = async (context, what) => {
  const kept: string[] = [];
  const { page, own } = await withFolder(context);
  const before = (await stored(page, 'own')).count;
  const lost = await page.evaluate(async (share) => {
    const database = await new Promise<IDBDatabase>((resolve) => {
      const request = indexedDB.open('slow-anchor-own');
      request.onsuccess = () => resolve(request.result);
    });
    const cursor = database.transaction('records', 'readwrite').objectStore('records').openCursor();
    let size = 0;
    await new Promise<void>((resolve) => {
      cursor.onsuccess = () => {
        const at = cursor.result;
        if (!at || size > 0) return resolve();
        const item = at.value as { packed?: Uint8Array; atMs: Float64Array }[];
        const chapter = item.find((e) => e.packed);
        if (chapter) {
          chapter.packed![Math.floor(share * (chapter.packed!.length - 20)) + 10]! ^= 16;
          size = chapter.atMs.length;
          at.update(item);
        }
        at.continue();
      };
    });
    database.close();
    return size;
  }, random.uniform());
  await page.close();
  const again = await open(context, '/log', kept);
  await again.addInitScript({ content: FOLDER });
  await again.goto('/log');
  await again.getByTestId('record-count').waitFor();
  await toFolder(again);
  await toldBackup(again).waitFor();
  await again.getByText(new RegExp(`^${lost} readings of .* could not be read`)).waitFor();
  const [copy = 0] = (await backups(again, what)).values();
  if (copy !== before - lost) fault(`${what}: ${copy} of ${before - lost} sound records are in the backup`);
  await again.goto(own);
  // Its check was begun before: one more Enter would ask for the microphone.
  await again.getByRole('heading', { level: 1, name: 'Ukulele' }).waitFor();
  const figure = nextFigure();
  await type(again, figure);
  await pause(again, 200);
  await kill(again);
  const after = await open(context, '/log', []);
  await after.getByTestId('record-count').waitFor();
  await after
    .getByText(new RegExp(`^${lost} readings of .* could not be read`))
    .waitFor({ timeout: 20000 })
    .catch(() => undefined);
};

/** The disk is nearly full: an import is refused whole, and what was there stays. */
const noRoom: Trial = async (context, what) => {
  const page = await open(context, '/bench', []);
  await addOne(page);
  const session = await context.newCDPSession(page);
  const origin = place.baseURL;
  const { usage } = await session.send('Storage.getUsageAndQuota', { origin });
  await session.send('Storage.overrideQuotaForOrigin', {
    origin,
    quotaSize: Math.round(usage + random.uniform() * 3e6),
  });
  await page.goto('/log');
  await page.getByTestId('record-count').waitFor();
  await page.locator('input[type=file]').first().setInputFiles('.tmp/log-50000.json');
  const answer = page.getByTestId('log-message').filter({ hasText: /Nothing was imported|new entries/ });
  await answer.waitFor({ timeout: 60000 });
  const taken = /new entries/.test((await answer.textContent()) ?? '');
  await kill(page);
  const after = await open(context, '/log', []);
  await after.getByTestId('record-count').waitFor();
  const { count } = await stored(after, 'own');
  if (count !== (taken ? 50006 : 5)) fault(`${what}: ${count} records, taken: ${taken}`);
};

/** A log that was written reading by reading. */
const SMALL = bigLog(1, 4, 124, Date.now() - MINUTE);

const tidied: Trial = async (context, what) => {
  const page = await open(context, '/log', []);
  await page.getByTestId('record-count').waitFor();
  await page.evaluate(async (records) => {
    const database = await new Promise<IDBDatabase>((resolve) => {
      const request = indexedDB.open('slow-anchor-own');
      request.onsuccess = () => resolve(request.result);
    });
    const write = database.transaction('records', 'readwrite');
    for (const r of records) write.objectStore('records').put([r], `0-${r.id}`);
    await new Promise((resolve) => (write.oncomplete = resolve));
    database.close();
  }, SMALL);
  await page.reload();
  await page.getByTestId('record-count').waitFor();
  await pause(page, 2500);
  await kill(page);
  const after = await open(context, '/log', []);
  await after.getByTestId('record-count').waitFor();
  const shown = Number(await after.getByTestId('record-count').textContent());
  const { count } = await stored(after, 'own');
  if (count !== SMALL.length || shown !== count)
    fault(`${what}: ${count} of ${SMALL.length} are there, ${shown} shown`);
};

const TRIALS: [string, Trial][] = [
  ['tidied up', tidied],
  ['typed', typed],
  ['plucked', plucked],
  ['5 000 records', imported(5000)],
  ['begun anew', reset],
  ['two tabs', twoTabs],
  ['backed up', backedUp],
  ['cleared, backed up again', cleared],
  ['a bent chapter', bent],
  ['no room', noRoom],
  ['typed', typed],
  ['begun anew', reset],
  ['50 000 records', imported(50000)],
];
const chosen = TRIALS.filter(([name]) => !alone || name === alone);
const done: Record<string, number> = {};
for (let i = 0; i < kills; i++) {
  // The long one comes once in four rounds.
  const at = i % chosen.length;
  const [name, trial] = chosen[at === TRIALS.length - 1 && Math.floor(i / TRIALS.length) % 4 > 0 ? 0 : at]!;
  const context = await browser.newContext(place);
  context.setDefaultTimeout(45000);
  try {
    await trial(context, `${name}, kill ${i + 1}`);
    done[name] = (done[name] ?? 0) + 1;
  } catch (error) {
    fault(`${name}, kill ${i + 1}: ${(error as Error).message.split('\n').slice(0, 4).join(' ')}`);
  }
  await context.close();
}
if (compared === 0) fault('nothing was shown as kept: the harness does not see');
await close();
writeSection(
  'Kept means kept',
  [
    `Tabs killed at random moments, seed ${seed}; asked: nothing that was shown as kept lost, no half batch, no unclean start.`,
    '',
    '| killed while | kills |',
    '|---|---|',
    ...Object.entries(done).map(([name, n]) => `| ${name} | ${n} |`),
    '',
    faults.length === 0
      ? `Figures that were shown as kept and looked for: ${compared}. Faults: 0.`
      : `Faults: ${faults.length}: ${faults.slice(0, 5).join('; ')}`,
  ],
  process.cpuUsage().user / 1e6,
);
exit(faults.length > 0 ? 1 : 0);
