import { screen, within } from '@testing-library/react';
import { figure } from '../../../../testing/hand';
import { choose, BENCH_ALONE, openApp, type AppPlayer } from '../../../../testing/player';

const PLACES = 32;
const place = (n: number, of = PLACES) => screen.queryByText(`Place ${n} of ${of}`);

/** Reads places of a pass by keys, as they are named, from the one it stands at: each is plucked. */
async function read(player: AppPlayer, from: number, to: number): Promise<void> {
  for (let i = from; i <= to; i++) {
    await player.until(() => place(i) !== null, 4000, `place ${i}`);
    for (let plucks = 0; plucks < 6 && place(i); plucks++) {
      await player.press('p');
      for (let t = 0; t < 3600 && place(i); t += 200) await player.pass(200);
    }
    expect(place(i)).toBeNull();
  }
}

/** Octave error of every string as the drawing's name tells it. */
const errors = (): number[] =>
  screen
    .getByRole('img', { name: /^Bridge from above/ })
    .getAttribute('aria-label')!
    .replace(/^[^:]*: /, '')
    .split(', ')
    .map((part) => figure(part.replace(/^\S+ /, '')));

test('the bouzouki’s octaves by keys: the bridge is moved as told, and read again', async () => {
  const player = await openApp('/demo/octave/bouzouki', 1, BENCH_ALONE);
  expect(player.says('instruction')).toBe('Read the octaves');
  await player.press('Enter');
  await read(player, 1, PLACES);
  const before = errors();
  expect(before).toHaveLength(8);
  // The low foot stands 1.5 mm short: the low strings are sharp, the high ones right.
  expect(before[7]!).toBeGreaterThan(2);
  expect(Math.abs(before[0]!)).toBeLessThan(1);
  expect(player.says('instruction')).toMatch(/^Low foot 1\.[3-7] mm away from the nut/);
  expect(screen.getByText(/Slacken the strings a little first/)).toBeVisible();
  await player.press('m');
  expect(player.says('message')).toContain('Saved. Retune');
  expect(player.says('instruction')).toBe('Retune, then read again');
  expect(screen.getByText(/low foot moved 1\.\d mm away from the nut/)).toBeVisible();
  // The first string again; the others are passed over.
  await player.press('Enter');
  await read(player, 1, 4);
  for (let i = 0; i < 7; i++) await player.press('s');
  const after = errors();
  expect(Math.abs(after[0]!)).toBeLessThan(1);
  await player.reload();
  expect(errors()).toEqual(after);
  // A lower action asks for fresh readings.
  await choose(player, screen.getByLabelText('Action changed by, mm'), '−0,3');
  await player.click(screen.getByRole('button', { name: 'Note it' }));
  expect(screen.getByText(/action lowered 0\.30 mm/)).toBeVisible();
  expect(screen.getAllByText(/The action or nut was changed after this reading\. Read it again\./)).toHaveLength(1);
});

test('months of octaves: one string is worn, one saddle stands short, the rest agree', async () => {
  const player = await openApp('/demo/octave/baritone');
  const string = (n: number) =>
    within(screen.getByRole('list', { name: 'What the strings say' })).getAllByRole('listitem')[n]!;
  expect(string(1)).toHaveTextContent(/The string itself.*The error grows by 1\.\d cents a month/);
  expect(string(2)).toHaveTextContent(/Move the saddle (1\.9|2\.0|2\.1) mm away from the nut/);
  expect(string(0)).toHaveTextContent('The octave agrees with the open string');
  // The owner's own screws, travel and units.
  await choose(player, screen.getByLabelText('Screws'), '4-40');
  expect(string(2)).toHaveTextContent(/3\.\d turns of its screw/);
  const travel = screen.getByLabelText('Travel either way, mm');
  await player.click(travel);
  await choose(player, travel, '1,5');
  await player.press('Tab');
  expect(string(2)).toHaveTextContent(/Its screw ends after 1\.5 mm: 1\.\d cents remain/);
  await player.click(screen.getByLabelText('in'));
  expect(string(2)).toHaveTextContent(/Move the saddle \.07\d|\.08\d in away/);
  expect(string(1)).toHaveTextContent(/your limit of 4 cents/);
});

test('an octave pass by the pedal: a place is skipped, stepped back to and read, and the pass outlives a reload', async () => {
  const player = await openApp('/demo/octave/baritone', 1, BENCH_ALONE);
  const at = (n: number) => place(n, 24) !== null;
  expect(player.says('instruction')).toContain('saddle');
  await player.press('PageDown');
  expect(at(1)).toBe(true);
  await player.pass(1000);
  // Nothing sounds: the pedal says so and stays; going on has a key of its own.
  await player.press('PageDown');
  expect(player.says('message')).toContain('Nothing is sounding');
  expect(at(1)).toBe(true);
  await player.press('n');
  expect(at(2)).toBe(true);
  await player.press('PageUp');
  expect(at(1)).toBe(true);
  await player.press('p');
  await player.until(() => at(2), 6000, 'the open string is read');
  expect(player.says('message')).toBe('B3 open saved.');
  await player.reload();
  expect(at(2)).toBe(true);
  expect(player.says('instruction')).toBe('Press Space to listen');
  await player.press(' ');
  expect(player.says('instruction')).toBe('B3 at fret 12, pressed lightly');
  // Read again, the second reading takes the first one's place: the pass does not jump to its end.
  await player.press('PageUp');
  expect(at(1)).toBe(true);
  await player.pass(500);
  await player.press('p');
  await player.until(() => at(2), 6000, 'the open string is read again');
  await player.press('Escape');
  expect(player.says('instruction')).toContain('saddle');
});
