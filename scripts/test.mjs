/**
 * npm test: types, lint and walls, build, unit tests, the interface's tests, browser tests; ends in 'N passed, N failed'.
 * `npm test -- --only unit|app|browser [FILE …]`: one kind alone, or some of its files.
 */
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { makeDemonstration } from './demonstration.mjs';
import { chromiumPath, fail, installPackages } from './setup.mjs';

const KINDS = ['unit', 'app', 'browser'];
const [flag, only, ...files] = process.argv.slice(2);
if (flag !== undefined && (flag !== '--only' || !KINDS.includes(only)))
  fail(`npm test -- --only ${KINDS.join('|')} [FILE …]`);

installPackages();
mkdirSync('.tmp', { recursive: true });
const browsers = only === undefined || only === 'browser';
const env = { ...process.env, ...(browsers ? { CHROMIUM: chromiumPath() } : {}) };
let passed = 0;
let failed = 0;
const took = [];

/** Runs a command; its words are shown at once, or when it ends where others run beside it. @returns its status */
const start = (command, args, beside = false) =>
  new Promise((resolve) => {
    let words = '';
    const child = spawn(command, args, { env, stdio: beside ? ['ignore', 'pipe', 'pipe'] : 'inherit' });
    for (const stream of [child.stdout, child.stderr]) stream?.on('data', (data) => (words += data));
    child.on('error', (error) => fail(`${command} could not be started: ${error.message}`));
    child.on('close', (status) => resolve({ status, words }));
  });

/** One stage. @param count what its report tells; without one it counts as a single test */
async function stage(name, command, args, { beside = false, report, count } = {}) {
  if (!beside) console.log(`\n== ${name}`);
  const began = Date.now();
  const { status, words } = await start(command, args, beside);
  if (beside) console.log(`\n== ${name}\n${words}`);
  took.push(`${name} ${Math.round((Date.now() - began) / 1000)} s`);
  let counts = { passed: status === 0 ? 1 : 0, failed: 0 };
  if (report) {
    try {
      counts = count(JSON.parse(readFileSync(report, 'utf8')));
    } catch {
      counts = { passed: 0, failed: 1 };
    }
    rmSync(report, { force: true });
  }
  passed += counts.passed;
  failed += counts.failed;
  if (status !== 0 && counts.failed === 0) failed++;
  if (status !== 0) console.log(`FAILED: ${name}`);
  return status === 0;
}

const npm = (script, beside) => stage(script, 'npm', ['run', '-s', script], { beside });
const jest = (name, projects, beside = false) =>
  stage(
    name,
    'npx',
    [
      'jest',
      '--maxWorkers=100%',
      '--json',
      '--outputFile=.tmp/jest.json',
      '--selectProjects',
      ...projects,
      ...(files.length ? ['--', ...files] : []),
    ],
    {
      beside,
      report: '.tmp/jest.json',
      count: (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests + r.numRuntimeErrorTestSuites }),
    },
  );
const browser = (beside = false) =>
  stage('browser tests', 'npx', ['playwright', 'test', ...files], {
    beside,
    report: '.tmp/playwright.json',
    count: (r) => ({ passed: r.stats.expected + r.stats.flaky, failed: r.stats.unexpected + (r.errors?.length ?? 0) }),
  });

if (only === undefined) {
  const [built] = await Promise.all([npm('build', true), npm('types', true)]);
  // Side by side: a browser waits for its sound while the arithmetic goes on.
  await Promise.all([
    built && browser(true),
    jest('unit tests and the interface without a browser', ['core', 'app'], true).then(() => npm('lint', true)),
  ]);
} else if (only === 'browser') {
  if (await npm('build')) await browser();
} else {
  makeDemonstration();
  await jest(only === 'unit' ? 'unit tests' : 'the interface without a browser', [only === 'unit' ? 'core' : 'app']);
}
console.log(`\n${took.join(', ')}\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
