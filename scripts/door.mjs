/** npm run door: the command-line door, compiled when it is not. */
import { installPackages } from './setup.mjs';

installPackages();
const { buildForNode } = await import('./node-build.mjs');
await buildForNode();
await import('../dist-node/door/main.js');
