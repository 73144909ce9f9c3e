import { notifyManager } from '@tanstack/react-query';
import { act, cleanup, configure, fireEvent, render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { MemoryRouter, useLocation } from 'react-router';
import { App } from '../src/app/App';
import { writeWav } from '../src/core/exchange';
import { steppedClock } from '../src/app/world/clock';
import type { QuestionKind } from '../src/app/analyst/questions';
import type { Means } from '../src/app/world/means';
import { giveMicrophone, testMeans } from './means';
import type { StoreName } from '../src/app/store/database';

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

/** A noon. */
const START_MS = Date.UTC(2026, 4, 12, 12);
/** So much of the sound is made and heard at once, ms. */
const BLOCK_MS = 80;
/** What moves is drawn for a hand that looks up so seldom: every 200 ms. */
const PACE = 4;
/** Plans of a show are worked out anew with every record, and seen by few views: by their tests. */
const PLANS = ['plan', 'choices'] as const;
/** What the bench tells; seen by few of the other views. */
export const BENCH_ALONE = [...PLANS, 'status'] as const;
/** A press takes a hand so long. */
const PRESS_MS = 120;
/** What is worked out beside is answered after so many turns of the queue. */
const TURNS = 2;

/** A player at the app, without a browser: hands, eyes and the time that passes. */
export interface AppPlayer {
  go(path: string): Promise<void>;
  /** The page is loaded anew; what was kept is there. */
  reload(): Promise<void>;
  press(...keys: string[]): Promise<void>;
  click(element: Element): Promise<void>;
  /** Time goes by, and what sounds is heard. */
  pass(ms: number): Promise<void>;
  /** Time goes by until this is so. */
  until(so: () => boolean, mostMs: number, what: string): Promise<void>;
  /** Waits for these words to be seen. */
  sees(id: string, words: RegExp | string, mostMs?: number): Promise<void>;
  says(id: 'instruction' | 'message' | 'live-cents' | (string & {})): string;
  /** The device's clock is set back by so much. */
  setClockBack(ms: number): void;
  path(): string;
  means(world: StoreName): Means;
}

/**
 * Opens the app at an address.
 * @param seed of the simulated voice
 * @param unseen what the test does not look at: it stays unanswered; plans where nothing is said
 */
export async function openApp(path: string, seed = 1, unseen: readonly QuestionKind[] = PLANS): Promise<AppPlayer> {
  sessionStorage.clear();
  localStorage.clear();
  const time = steppedClock(START_MS, PACE);
  let backMs = 0;
  const clock = { ...time, nowMs: () => time.nowMs() - backMs };
  const user = userEvent.setup({ delay: null, pointerEventsCheck: 0 });
  const worlds = new Map<StoreName, Means>();
  const means = (world: StoreName): Means => {
    const known = worlds.get(world) ?? testMeans(world, clock, seed, unseen);
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
    await player.pass(PRESS_MS);
  };
  const player: AppPlayer = {
    go: async (to) => open(to),
    reload: async () => open(at),
    async press(...keys) {
      for (const key of keys) {
        const plain = key.replace('Shift+', '');
        const named = plain === ' ' ? '[Space]' : `{${plain}}`;
        await user.keyboard(plain === key ? named : `{Shift>}${named}{/Shift}`);
        await player.pass(PRESS_MS);
      }
    },
    async click(element) {
      await user.click(element);
      await player.pass(PRESS_MS);
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
        if (t >= mostMs)
          throw new Error(
            `${what}: not within ${mostMs} ms. It says: ${player.says('instruction')} / ${player.says('message')}`,
          );
        await player.pass(200);
      }
    },
    sees: (id, words, mostMs = 5000) =>
      player.until(
        () => (typeof words === 'string' ? player.says(id).includes(words) : words.test(player.says(id))),
        mostMs,
        `${id} says ${words}`,
      ),
    says: (id) => screen.queryByTestId(id)?.textContent ?? '',
    setClockBack(ms) {
      backMs += ms;
    },
    path: () => at,
    means,
  };
  await open(path);
  return player;
}

/** Gives a field another text, or a choice another one of its options, by value or words. */
export async function choose(player: AppPlayer, field: HTMLElement, wanted: string): Promise<void> {
  const options = field instanceof HTMLSelectElement ? [...field.options] : [];
  const value = (options.find((o) => o.value === wanted) ?? options.find((o) => o.text === wanted))?.value ?? wanted;
  act(() => {
    fireEvent.change(field, { target: { value } });
  });
  await player.pass(BLOCK_MS);
}

/** Puts an instrument of a family on the user's own bench, strung just now unless said otherwise, and opens it there. */
export async function addInstrument(player: AppPlayer, family: string, strung?: string): Promise<void> {
  await player.go('/add');
  if (strung) await player.click(screen.getByLabelText(strung));
  await player.click(screen.getByRole('button', { name: family }));
  await player.click(screen.getByRole('button', { name: 'Add it' }));
  await player.pass(200);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent(family);
}

/** Types a figure for the named string, as a user without a microphone does. */
export async function typeFigure(player: AppPlayer, text: string): Promise<void> {
  await player.press('k');
  await choose(player, screen.getByLabelText('Cents from the target, or Hz'), text);
  act(() => screen.getByLabelText('Cents from the target, or Hz').focus());
  await player.press('Enter');
}

/** What the browser is given to save, as text. */
export async function saved(act: () => Promise<void>): Promise<string> {
  let kept: Blob | undefined;
  const before = URL.createObjectURL;
  URL.createObjectURL = (blob) => {
    kept = blob as Blob;
    return 'blob:kept';
  };
  HTMLAnchorElement.prototype.click = () => undefined;
  await act();
  URL.createObjectURL = before;
  if (!kept) throw new Error('Nothing was saved.');
  return kept.text();
}

/** Hands a file to a view's own field for one. */
export async function giveFile(player: AppPlayer, label: string, file: File): Promise<void> {
  const field = screen.getByLabelText(label);
  act(() => {
    fireEvent.change(field, { target: { files: [file] } });
  });
  await player.pass(BLOCK_MS);
}

/** Sound from a file, as any view takes it. */
export const playFile = (
  player: AppPlayer,
  samples: Float32Array,
  sampleRate: number,
  name = 'sound.wav',
): Promise<void> =>
  giveFile(player, 'WAV file', new File([Buffer.from(writeWav(samples, sampleRate))], name, { type: 'audio/wav' }));

/** The microphone hears this from now on, as time goes by. */
export async function hearLive(player: AppPlayer, samples: Float32Array, rate: number): Promise<void> {
  giveMicrophone(player.means('own'), samples, rate);
  await player.press(' ');
}
