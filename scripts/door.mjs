/** npm run door: the command-line door, compiled when it is not. */
import { needPackages } from './setup.mjs';

needPackages();
const { buildForNode } = await import('./node-build.mjs');
await buildForNode();
await import('../dist-node/door/main.js');
