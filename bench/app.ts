import { chromium, type Browser, type Page } from '@playwright/test';
import { spawn } from 'node:child_process';
import process, { env, execPath } from 'node:process';

/** Types a figure for the string in hand, as a user without a microphone does. @param enter presses Enter too */
export async function typeInPage(page: Page, text: string, enter = true): Promise<void> {
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Type a figure from another device' }).click();
  await page.getByLabel('Cents from the target, or Hz').fill(text);
  if (enter) await page.keyboard.press('Enter');
}

/** The built app on a port of its own, and a browser to look at it with. */
export interface ServedApp {
  browser: Browser;
  /** What every page is opened with. */
  place: { baseURL: string; viewport: { width: number; height: number } };
  close(): Promise<void>;
}

/** @param args switches for the browser beside the usual ones */
export async function serveApp(port: number, ...args: string[]): Promise<ServedApp> {
  const server = spawn(execPath, ['dist-node/server/main.js'], {
    env: { ...env, PORT: String(port) },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  process.on('exit', () => server.kill());
  await new Promise((resolve) => server.stdout.once('data', resolve));
  const browser = await chromium.launch({
    executablePath: env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', ...args],
  });
  return {
    browser,
    place: { baseURL: `http://localhost:${port}`, viewport: { width: 1280, height: 800 } },
    async close() {
      await browser.close();
      server.kill();
    },
  };
}
