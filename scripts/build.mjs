/** npm run build: the demonstration's log (only when its makers changed), server and door, the app, the worker that keeps it offline. */
import { generateSW } from 'workbox-build';
import { makeDemonstration } from './demonstration.mjs';
import { buildForNode } from './node-build.mjs';
import { fail, run } from './setup.mjs';

makeDemonstration();
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
