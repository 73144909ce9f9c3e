import { defineConfig } from '@playwright/test';

const PORT = 4187;
/** Headless, in this sandbox, and off the network. */
const CHROMIUM_ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--autoplay-policy=no-user-gesture-required',
  // Another name for this machine, by plain http: a browser trusts such a page less.
  '--host-resolver-rules=MAP barge.test 127.0.0.1',
];

/** The stores of a browser that has opened the demonstration once. */
export const DEMONSTRATION = '.tmp/demonstration.json';

export default defineConfig({
  testDir: 'e2e',
  testMatch: '**/*.spec.ts',
  // A busy machine is slow to answer; nothing is loosened by waiting for it.
  timeout: 240_000,
  expect: { timeout: 60_000 },
  workers: 2,
  fullyParallel: true,
  projects: [
    { name: 'setup', testMatch: '**/*.setup.ts' },
    { name: 'browser', dependencies: ['setup'], use: { storageState: DEMONSTRATION } },
  ],
  reporter: [['list'], ['json', { outputFile: '.tmp/playwright.json' }]],
  use: {
    baseURL: `http://localhost:${PORT}`,
    viewport: { width: 1280, height: 800 },
    // As on a device that was asked before; what is said before it is asked has a test of its own.
    permissions: ['microphone'],
    launchOptions: { executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: CHROMIUM_ARGS },
  },
  webServer: {
    command: 'node dist-node/server/main.js',
    port: PORT,
    env: { PORT: String(PORT) },
    reuseExistingServer: false,
  },
});
