import { notifyManager } from '@tanstack/react-query';
import { act, cleanup, configure, fireEvent, render, screen } from '@testing-library/react';
import { MemoryRouter, useLocation } from 'react-router';
import { App } from '../src/app/App';
import type { World } from '../src/app/database/database';
import { steppedClock } from '../src/app/world/clock';
import type { Means } from '../src/app/world/means';
import { testMeans } from './means';

notifyManager.setScheduler(queueMicrotask);
Object.assign(globalThis, {
  ResizeObserver: class {
    observe() {}
    unobserve() {}
    disconnect() {}
  },
});
window.scrollTo = Element.prototype.scrollIntoView = () => undefined;
window.matchMedia = ((media: string) => ({
  matches: false,
  media,
  addEventListener: () => undefined,
  removeEventListener: () => undefined,
})) as unknown as typeof window.matchMedia;
configure({ getElementError: (message) => new Error(message?.split('\n')[0] ?? '') });

/** So much of the sound is made and heard at once, ms. */
const BLOCK_MS = 40;
/** What is worked out beside is answered after so many turns of the queue. */
const TURNS = 4;

/** A player at the app, without a browser: hands, eyes and the time that passes. */
export interface Player {
  go(path: string): Promise<void>;
  /** The page is loaded anew; what was kept is there. */
  reload(): Promise<void>;
  press(...keys: string[]): Promise<void>;
  click(element: Element): Promise<void>;
  /** Time goes by, and what sounds is heard. */
  pass(ms: number): Promise<void>;
  /** Time goes by until this is so. */
  until(so: () => boolean, mostMs: number, what: string): Promise<void>;
  says(id: 'instruction' | 'message' | 'live-cents' | (string & {})): string;
  path(): string;
  means(world: World): Means;
}

export async function openApp(path: string, seed = 1, startMs = Date.UTC(2026, 4, 12, 12)): Promise<Player> {
  const clock = steppedClock(startMs);
  const worlds = new Map<World, Means>();
  const means = (world: World): Means => {
    const known = worlds.get(world) ?? testMeans(world, clock, seed);
    worlds.set(world, known);
    return known;
  };
  let at = path;
  /** Knows the address, as the browser's own bar does. */
  function Address() {
    at = useLocation().pathname;
    return null;
  }
  const settle = async () => {
    for (let i = 0; i < TURNS; i++) await act(() => new Promise<void>((resolve) => setImmediate(resolve)));
  };
  const open = async (to: string) => {
    cleanup();
    render(
      <MemoryRouter initialEntries={[to]}>
        <Address />
        <App means={means} />
      </MemoryRouter>,
    );
    await settle();
  };
  const player: Player = {
    go: async (to) => open(to),
    reload: async () => open(at),
    async press(...keys) {
      for (const key of keys) {
        const plain = key.replace('Shift+', '');
        act(() => {
          fireEvent.keyDown(document.activeElement ?? document.body, { key: plain, shiftKey: plain !== key });
        });
      }
      await settle();
    },
    async click(element) {
      act(() => {
        fireEvent.pointerDown(element);
        fireEvent.click(element);
      });
      await settle();
    },
    async pass(ms) {
      for (let left = ms; left > 0; left -= BLOCK_MS) {
        act(() => clock.advance(Math.min(BLOCK_MS, left)));
        await act(async () => undefined);
      }
      await settle();
    },
    async until(so, mostMs, what) {
      for (let t = 0; !so(); t += 200) {
        if (t >= mostMs) throw new Error(`${what}: not within ${mostMs} ms. It says: ${player.says('instruction')} / ${player.says('message')}`);
        await player.pass(200);
      }
    },
    says: (id) => screen.queryByTestId(id)?.textContent ?? '',
    path: () => at,
    means,
  };
  await open(path);
  return player;
}
