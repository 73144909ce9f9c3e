/** npm run build: the demonstration's log (only when its makers changed), server and door, the app, the worker that keeps it offline. */
import { existsSync, statSync } from 'node:fs';
import { generateSW } from 'workbox-build';
import { buildForNode, newest } from './node-build.mjs';
import { fail, run } from './setup.mjs';

const OUT = 'public/demonstration.json';
const made = existsSync(OUT) ? statSync(OUT).mtimeMs : 0;
if (made < Math.max(newest('demo'), newest('src/core'))) {
  console.log('Making the demonstration with the simulator …');
  run('npx', ['tsx', 'demo/write.ts']);
}
await buildForNode();
run('npx', ['vite', 'build', '--logLevel', 'error']);

// Everything the app is made of is kept on the device at the first visit: venues have no network.
const { warnings } = await generateSW({
  globDirectory: 'dist',
  globPatterns: ['**/*.{html,js,css,woff2,svg,png,json,webmanifest}'],
  swDest: 'dist/sw.js',
  navigateFallback: '/index.html',
  inlineWorkboxRuntime: true,
  sourcemap: false,
  cleanupOutdatedCaches: true,
  clientsClaim: true,
  // A newer version waits until the user takes it: never in the middle of a pass.
  skipWaiting: false,
});
if (warnings.length > 0) fail(warnings.join('\n'));
