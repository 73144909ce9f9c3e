import { spawnSync } from 'node:child_process';
import { existsSync, lstatSync, readFileSync } from 'node:fs';

/** Runs a command with its output shown; ends with its status when it fails. */
export function run(command, args, env = {}) {
  const { status, error } = spawnSync(command, args, { stdio: 'inherit', env: { ...process.env, ...env } });
  if (error) fail(`${command} could not be started: ${error.message}`);
  if (status !== 0) process.exit(status ?? 1);
}

export function fail(sentence, status = 1) {
  console.error(sentence);
  process.exit(status);
}

/** Are the packages that the lock file names installed? By content: a fresh clone or a touched file makes no difference. */
function isInstalled() {
  const hidden = 'node_modules/.package-lock.json';
  if (!existsSync(hidden)) return false;
  const [lock, there] = ['package-lock.json', hidden].map((name) => JSON.parse(readFileSync(name, 'utf8')).packages);
  const wanted = Object.entries(lock).filter(([at]) => at !== '');
  return (
    wanted.every(([at, { version, optional }]) => (there[at] ? there[at].version === version : optional)) &&
    Object.keys(there).every((at) => lock[at])
  );
}

/** npm ci where the packages are missing or others. Only the two commands that set up do so. */
export function installPackages() {
  if (isInstalled()) return;
  // It would empty the folder that the link leads to, which somebody else works with.
  if (lstatSync('node_modules', { throwIfNoEntry: false })?.isSymbolicLink())
    fail('node_modules is a link to a folder with other packages. Remove the link, then start again.');
  run('npm', ['ci', '--no-audit', '--no-fund']);
}

/** For all other commands. */
export function needPackages() {
  if (!isInstalled()) fail('The packages are not installed, or are older ones: run npm test or npm run demo first.', 2);
}

/** Path of Debian's chromium; installed through apt-get when it is missing and we may. */
export function chromiumPath() {
  const path = process.env.CHROMIUM ?? '/usr/bin/chromium';
  if (existsSync(path)) return path;
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) {
    fail('The browser tests need Chromium: install Debian’s package chromium, or give its path in CHROMIUM.');
  }
  run('apt-get', ['update', '-qq']);
  run('apt-get', ['install', '-y', '-qq', 'chromium'], { DEBIAN_FRONTEND: 'noninteractive' });
  return path;
}
