import { screen, within } from '@testing-library/react';
import { follow } from '../../../../testing/hand';
import { BENCH_ALONE, openApp } from '../../../../testing/player';

test('a whole round by ear on the requinto, by the pedal: judged first, read then, both kept', async () => {
  const player = await openApp('/demo/ear/requinto', 1, BENCH_ALONE);
  expect(player.says('instruction')).toContain('Press Enter to read');
  // The school whose worst string is the best is offered; another is one key away.
  expect(screen.getByRole('button', { name: 'From one string' })).toHaveAttribute('aria-pressed', 'true');
  await player.press('PageDown');
  expect(player.says('instruction')).toBe('Pluck A2 alone');
  await player.press('p');
  await player.pass(3000);
  expect(player.says('instruction')).toContain('Turn while both ring');
  // While it is tuned by ear nothing is shown of where it stands.
  expect(player.says('live-cents')).toBe('–');
  await player.press('ArrowUp');
  await follow(player, /^Press Enter to read/);
  expect(player.says('message')).toContain('The round is done');
  expect(screen.getByRole('list', { name: 'Your ear' })).toHaveTextContent(
    /1:1: you stop [−+]?\d+\.\d ±\d+\.\d cents from beatless \(5 times\)/,
  );
  expect(screen.getByText(/as your rounds showed/)).toBeVisible();
  await player.go('/demo/log');
  // Two checkpoints for each of five strings.
  expect(screen.getAllByText(/by ear against .*A2 \(\d+:\d+\), read/)).toHaveLength(10);
});

test('a bowed instrument is offered what it can do, and told what it cannot', async () => {
  const player = await openApp('/demo/ear/viola');
  expect(screen.getByRole('button', { name: 'From one string' })).toBeDisabled();
  await player.click(screen.getByRole('button', { name: 'Fifths' }));
  expect(screen.getByRole('list', { name: 'Steps' })).toHaveTextContent('D4 open against A4 open: fifth');
});

test('two strings brought to a stop while they ring: beats, and which way, while the tuner is turned', async () => {
  const player = await openApp('/demo/ear/requinto', 1, BENCH_ALONE);
  await player.press('PageDown');
  await follow(player, /^Turn while both ring/);
  // Not shown unless it is asked for; the octave of the two checkpoints.
  expect(screen.queryByTestId('beats')).toBeNull();
  await player.press('w', 'o', 'ArrowDown', 'ArrowDown', 'ArrowDown', 'p');
  const way = () => player.says('beats-way');
  await player.until(() => /↑ up/.test(way()), 5000, 'which way');
  const before = Number(player.says('beats-figure'));
  for (let i = 0; i < 16 && way() !== 'right'; i++) {
    await player.press(way().startsWith('↑') ? 'ArrowUp' : way().startsWith('↓') ? 'ArrowDown' : 'p');
    await player.pass(1300);
  }
  expect(way()).toBe('right');
  expect(Number(player.says('beats-figure'))).toBeLessThan(before);
});

test('the checkpoints are read two strings at a time and put together: who is off, and whether they agree', async () => {
  const player = await openApp('/demo/ear/requinto', 1, BENCH_ALONE);
  expect(player.says('instruction')).toContain('Press Enter to read');
  await player.press('c');
  expect(player.says('instruction')).toMatch(/^Sound A2/);
  await follow(player, /^Press Enter to read/);
  expect(player.says('net-words')).toMatch(/All of them agree\. Move C4 up 1[2-5]\.\d/);
  await player.go('/demo/log');
  expect(within(screen.getByRole('main')).getAllByText(/with .*, A2 \(\d+:\d+\): .* beats a second/)).toHaveLength(10);
});
