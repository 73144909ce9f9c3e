/** A page without a browser: what jsdom leaves out and Node.js has. */
const { TestEnvironment } = require('jest-environment-jsdom');

module.exports = class Page extends TestEnvironment {
  async setup() {
    await super.setup();
    for (const name of ['TextEncoder', 'TextDecoder', 'structuredClone', 'setImmediate', 'Blob', 'File', 'Uint8Array'])
      this.global[name] = globalThis[name];
  }
};
