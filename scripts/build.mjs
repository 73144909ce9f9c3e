/** npm run build: the demonstration's log (only when its makers changed), then the app. */
import { existsSync, readdirSync, statSync } from 'node:fs';
import { run } from './setup.mjs';

const OUT = 'public/demonstration.json';
const newest = (folder) =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((f) => f.isFile())
    .reduce((t, f) => Math.max(t, statSync(`${f.parentPath ?? f.path}/${f.name}`).mtimeMs), 0);
const made = existsSync(OUT) ? statSync(OUT).mtimeMs : 0;
if (made < Math.max(newest('demo'), newest('src/core'))) {
  console.log('Making the demonstration with the simulator …');
  run('npx', ['tsx', 'demo/write.ts']);
}
run('npx', ['vite', 'build', '--logLevel', 'warn']);
