import type { Page } from '@playwright/test';

/** Notes every task of 50 ms or more on the page from now on. */
export const watchTasks = (p: Page) =>
  p.evaluate(() => {
    const w = window as unknown as { long: number[] };
    w.long = [];
    new PerformanceObserver((list) => w.long.push(...list.getEntries().map((e) => e.duration))).observe({
      type: 'longtask',
    });
  });

/** The longest task since then, ms. */
export const longest = (p: Page) => p.evaluate(() => Math.max(0, ...(window as unknown as { long: number[] }).long));

export const seconds = (fromMs: number): string => ((performance.now() - fromMs) / 1000).toFixed(1);
