import { screen, within } from '@testing-library/react';
import { follow } from '../../../../testing/hand';
import { BENCH_ALONE, openApp } from '../../../../testing/player';

test('the baritone’s F#3 binds: measured, its slot lubricated, measured again, by keys alone', async () => {
  const player = await openApp('/demo/friction/baritone', 1, BENCH_ALONE);
  expect(player.says('instruction')).toBe('Press Enter to measure B3');
  await player.press('2');
  expect(player.says('instruction')).toBe('Press Enter to measure F#3');
  await follow(player, /next string/);
  expect(player.says('message')).toContain('between its two limits');
  const row = () => within(screen.getByRole('list', { name: 'Friction by string' })).getAllByRole('listitem')[1]!;
  const figure = () => Number(row().textContent!.match(/F#3([\d.]+) ±/)![1]);
  const before = figure();
  // Nut and tree together hold 21 cents; what a bend and a press reach of that.
  expect(before).toBeGreaterThan(12);
  expect(before).toBeLessThan(24);
  expect(screen.getByText(/You can lose about \d+ cents at the nut of the F#3/)).toBeVisible();
  await player.press('l');
  expect(player.says('message')).toContain('Press Enter to measure it again');
  await follow(player, /next string/);
  expect(player.says('message')).toContain('between its two limits');
  expect(figure()).toBeLessThan(before / 4);
  expect(row()).toHaveTextContent(`before ${before.toFixed(1)}`);
  expect(screen.getByText(/Lubricated: less by [\d.]+ ±[\d.]+ cents\./)).toBeVisible();
  await player.go('/demo/log');
  expect(screen.getAllByText(/F#3: lubricated/).length).toBeGreaterThan(0);
});

test('tricks are read, not believed: a press in the wings, and bending all strings before the show', async () => {
  const player = await openApp('/demo/friction/baritone', 2, BENCH_ALONE);
  await player.press('2');
  expect(player.says('instruction')).toBe('Press Enter to measure F#3');
  await player.press('u');
  await follow(player, /^Press Enter to measure/);
  const read = () => within(screen.getByRole('list', { name: 'Tricks as read' })).getAllByRole('listitem');
  expect(read()[0]).toHaveTextContent(
    /F#3 raised by a press into the peg box: \+\d+\.\d cents, in the two minutes after −\d/,
  );
  await player.press('g');
  expect(player.says('instruction')).toBe('Pluck it open');
  await follow(player, /^Press Enter to measure/);
  expect(player.says('message')).toContain('bring them up from below');
  expect(read().filter((item) => /bent full/.test(item.textContent!))).toHaveLength(6);
});

test('an instrument without a nut has no friction to measure there, and its address says why', async () => {
  await openApp('/demo/friction/kantele');
  expect(screen.getByText(/There is no nut to stick in/)).toBeVisible();
});
