/** npm run build: the demonstration's log (only when its makers changed), the app, the worker that keeps it offline. */
import { existsSync, readdirSync, statSync } from 'node:fs';
import { generateSW } from 'workbox-build';
import { fail, run } from './setup.mjs';

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

// Everything the app is made of is kept on the device at the first visit: venues have no network.
const { warnings } = await generateSW({
  globDirectory: 'dist',
  globPatterns: ['**/*.{html,js,css,woff2,svg,json}'],
  swDest: 'dist/sw.js',
  navigateFallback: '/index.html',
  inlineWorkboxRuntime: true,
  sourcemap: false,
  cleanupOutdatedCaches: true,
  clientsClaim: true,
  skipWaiting: true,
});
if (warnings.length > 0) fail(warnings.join('\n'));
