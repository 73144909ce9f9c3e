import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, statSync, writeFileSync } from 'node:fs';

/** Runs a command with its output shown; ends with its status when it fails. */
export function run(command, args, env = {}) {
  const { status, error } = spawnSync(command, args, { stdio: 'inherit', env: { ...process.env, ...env } });
  if (error) fail(`${command} could not be started: ${error.message}`);
  if (status !== 0) process.exit(status ?? 1);
}

export function fail(sentence) {
  console.error(sentence);
  process.exit(1);
}

/** npm ci when the installed packages are missing or older than the lock file. */
export function installPackages() {
  const stamp = 'node_modules/.slow-anchor-installed';
  const lock = readFileSync('package-lock.json', 'utf8').length + ':' + statSync('package-lock.json').mtimeMs;
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  if (
    existsSync('node_modules/.package-lock.json') &&
    statSync('node_modules/.package-lock.json').mtimeMs >= statSync('package-lock.json').mtimeMs
  ) {
    writeFileSync(stamp, lock);
    return;
  }
  run('npm', ['ci', '--no-audit', '--no-fund']);
  writeFileSync(stamp, lock);
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
