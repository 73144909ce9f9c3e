/** npm test: types, lint and walls, unit tests, build, browser tests; ends in 'N passed, N failed'. */
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { chromiumPath, installPackages } from './setup.mjs';

installPackages();
mkdirSync('.tmp', { recursive: true });
const CHROMIUM = chromiumPath();
let passed = 0;
let failed = 0;

const env = { ...process.env, CHROMIUM };

function tally(name, status, counts) {
  passed += counts.passed;
  failed += counts.failed;
  if (status !== 0 && counts.failed === 0) failed++;
  if (status !== 0) console.log(`FAILED: ${name}`);
}

function step(name, command, args, count) {
  console.log(`\n== ${name}`);
  const { status } = spawnSync(command, args, { stdio: 'inherit', env });
  tally(name, status, count());
}

/** Steps that do not wait for one another, side by side; each one's words are printed when it ends. */
const together = (steps) =>
  Promise.all(
    steps.map(
      ([name, script]) =>
        new Promise((resolve) => {
          let words = '';
          const child = spawn('npm', ['run', '-s', script], { env });
          for (const stream of [child.stdout, child.stderr]) stream.on('data', (data) => (words += data));
          child.on('close', (status) => {
            console.log(`\n== ${name}\n${words}`);
            tally(name, status, { passed: status === 0 ? 1 : 0, failed: 0 });
            resolve(status === 0);
          });
        }),
    ),
  );

const report = (file, read) => () => {
  try {
    return read(JSON.parse(readFileSync(file, 'utf8')));
  } catch {
    return { passed: 0, failed: 1 };
  } finally {
    rmSync(file, { force: true });
  }
};

const [, , built] = await together([
  ['types', 'types'],
  ['lint, format and walls', 'lint'],
  ['build', 'build'],
]);
step(
  'unit tests',
  'npx',
  ['jest', '--maxWorkers=100%', '--json', '--outputFile=.tmp/jest.json'],
  report('.tmp/jest.json', (r) => ({
    passed: r.numPassedTests,
    failed: r.numFailedTests + r.numRuntimeErrorTestSuites,
  })),
);
if (built) {
  step(
    'browser tests',
    'npx',
    ['playwright', 'test'],
    report('.tmp/playwright.json', (r) => ({ passed: r.stats.expected + r.stats.flaky, failed: r.stats.unexpected })),
  );
}
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
