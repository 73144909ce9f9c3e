import { screen } from '@testing-library/react';
import type { AppPlayer } from './player';
import { ASKS_WHETHER, SOUNDED } from './asked';

/** A figure as the screen writes it, '−6.3', as a number; NaN where none stands. */
export function figure(text: string | null | undefined): number {
  const m = /[+−-]?\d+(\.\d+)?/.exec(text ?? '');
  return m ? Number(m[0].replace('−', '-')) : NaN;
}

/** A string that has died away shows its last figure faintly. */
export const isFaint = (): boolean =>
  screen.queryAllByTestId('live-cents').some((shown) => shown.className.includes('opacity'));

/** How far the string in hand is off where it is to be left, by what is shown: that counts from where it belongs. */
export const shownCents = (player: AppPlayer): number => figure(player.says('live-cents')) - lineCents();
const lineCents = (): number =>
  figure(
    /where to leave it, (.*)/.exec(screen.queryByRole('img', { name: /^Live pitch/ })?.ariaLabel ?? '')?.[1] ?? '0',
  );

/** Plucks, and looks up until the instruction has moved on or the note has been heard out. */
export async function pluckString(player: AppPlayer): Promise<void> {
  const before = player.says('instruction');
  await player.press('p');
  for (let t = 0; t < 2400 && player.says('instruction') === before; t += 200) await player.pass(200);
}

/** Plucks or turns the simulated tuner as the sentence says. @returns whether it asks for either */
export async function turnAsTold(player: AppPlayer): Promise<boolean> {
  const sentence = player.says('instruction');
  // No hand turns a string that it no longer hears.
  if (/^Bring it up|below, then up/.test(sentence) && isFaint()) {
    await player.pass(400);
    if (isFaint()) await pluckString(player);
    return true;
  }
  // A surprising fall is asked for twice: 'It fell at once: pluck A2 again'.
  if (/^Pluck|: pluck /.test(sentence)) await pluckString(player);
  else if (/^Bring it up/.test(sentence)) {
    const flat = Math.abs(shownCents(player));
    await player.press(flat > 18 ? 'Shift+ArrowUp' : 'ArrowUp');
    // Close to pitch a hand waits for what it hears.
    await player.pass(flat < 8 ? 400 : 200);
  } else if (/below, then up/.test(sentence)) {
    if (shownCents(player) > 16) await player.press('Shift+ArrowDown');
    else await player.press('ArrowDown', 'ArrowDown', 'ArrowDown', 'ArrowDown');
    await player.pass(440);
  } else return false;
  return true;
}

/** Does what is told until this is so. @param done also told what to do besides; true where it did something */
export async function doAsTold(
  player: AppPlayer,
  so: () => boolean,
  besides: () => Promise<boolean> = async () => false,
): Promise<void> {
  for (let i = 0; i < 900; i++) {
    if (so()) return;
    if (!(await besides()) && !(await turnAsTold(player))) await player.pass(120);
  }
  throw new Error(`never got there: ${player.says('instruction')} / ${player.says('message')}`);
}

/** Does as it is told, by the pedal and the simulated pluck alone, until the sentence that ends it. */
export async function follow(player: AppPlayer, until: RegExp): Promise<void> {
  for (let i = 0; i < 160; i++) {
    const sentence = player.says('instruction');
    if (until.test(sentence)) return;
    // What stands far from where it was is asked about: it is that string.
    if (ASKS_WHETHER.test(player.says('message'))) await player.press('PageDown');
    // A hand waits for what comes next.
    else if (!/^A moment/.test(sentence)) await player.press(SOUNDED.test(sentence) ? 'p' : 'PageDown');
    for (let t = 0; t < 3000 && player.says('instruction') === sentence; t += 200) await player.pass(200);
  }
  throw new Error(`never got to ${until}: ${player.says('instruction')} / ${player.says('message')}`);
}
