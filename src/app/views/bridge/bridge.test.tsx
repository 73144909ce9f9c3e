import { screen, within } from '@testing-library/react';
import { doAsTold, figure, follow } from '../../../../testing/hand';
import { choose, BENCH_ALONE, openApp } from '../../../../testing/player';

test('the baritone to a new tuning by keys: the claw, then a stop that is not zero; each is kept as it is done', async () => {
  const player = await openApp('/demo/tuning/baritone', 5, BENCH_ALONE);
  await player.click(screen.getByRole('button', { name: 'A half step down' }));
  await player.press('PageDown');
  expect(player.says('message')).toContain('In use from now on');
  await player.go('/demo/bridge/baritone');
  // With another tuning in force that is what is offered.
  expect(screen.getByRole('button', { name: 'A new tuning' })).toHaveAttribute('aria-pressed', 'true');
  expect(within(screen.getByTestId('ways')).getAllByRole('listitem')).toHaveLength(4);
  expect(screen.getByText(/Calculated from gauges and springs/)).toBeVisible();
  await player.press('PageDown');
  let claw = 0;
  const stops = new Set<string>();
  const turnClaw = async () => {
    if (!/^Turn both claw screws/.test(player.says('instruction'))) return false;
    claw++;
    await player.press('c', 'PageDown');
    expect(player.says('instruction')).not.toMatch(/^Turn both claw screws/);
    return true;
  };
  const stop = () => player.says('stop');
  const seen = () => (stop() ? stops.add(stop()) : stops).size > 1;
  await doAsTold(player, seen, turnClaw);
  expect(claw).toBeGreaterThan(0);
  expect(Math.max(...[...stops].map((s) => Math.abs(figure(s.split('stop at')[1]))))).toBeGreaterThan(10);
  await player.press('Escape');
  await player.go('/demo/log');
  const words = screen.getByRole('searchbox', { name: 'Words in an entry' });
  await choose(player, words, 'claw turned');
  expect(screen.getAllByText(/bridge, claw turned/)).toHaveLength(claw);
  await choose(player, words, 'stopped at');
  expect(screen.getAllByText(/bridge, stopped at/).length).toBeGreaterThan(0);
});

test('fewer springs give back more, said before anything is turned; a bridge that is fast has no such view', async () => {
  const player = await openApp('/demo/bridge/baritone');
  const back = () => Number(/takes back (\d+) %/.exec(screen.getByText(/takes back/).textContent!)![1]);
  const three = back();
  await choose(player, screen.getByRole('combobox', { name: 'Springs' }), '2');
  expect(player.says('message')).toBe('2 springs.');
  expect(back()).toBeGreaterThan(three + 3);
  await player.go('/demo/bridge/viola');
  expect(screen.getByText(/is not held by springs/)).toBeVisible();
});

test('bar down and up, twice, by keys: the strings that bind do not come back, and Causes goes on with what it did', async () => {
  const player = await openApp('/demo/bridge/baritone', 2, BENCH_ALONE);
  expect(player.says('instruction')).toContain('Press Enter: first');
  // The pedal opens the ear, does the bar, and takes nothing by itself: every string reads itself.
  await player.press('r', ' ');
  await follow(player, /back to the bridge/);
  expect(player.says('return-verdict')).toContain('The bridge itself comes back. D3, A2, F#3 do not');
  const row = within(screen.getByTestId('returns')).getByRole('row', { name: /^F#3/ });
  expect(Math.abs(figure(within(row).getAllByRole('cell')[1]?.textContent))).toBeGreaterThan(5);
  expect(player.says('message')).toBe('Kept, string by string.');
  await player.click(screen.getByRole('link', { name: /Find out why/ }));
  expect(screen.getByRole('list', { name: 'What was read' })).toHaveTextContent(/A dive\s*\+\d/);
});

test('clamps at the nut: what locking did is read, and aimed off for the next time', async () => {
  const player = await openApp('/demo/instrument/baritone', 4, BENCH_ALONE);
  await player.click(screen.getByText('Its build'));
  await player.click(screen.getByRole('checkbox', { name: 'clamps at the nut' }));
  await player.click(screen.getByRole('button', { name: /Save|Keep/ }));
  await player.go('/demo/bridge/baritone');
  expect(player.says('rooms')).toContain('can still go');
  expect(player.says('lock-shifts')).toContain('Press L after locking');
  // Nothing was left by the bridge yet: a touch-up first, stopped when all were read.
  await choose(player, screen.getByRole('combobox', { name: 'Order' }), 'own');
  expect(screen.getByRole('button', { name: /^Begin/ })).toBeDisabled();
  await choose(player, screen.getByRole('textbox', { name: 'Your order' }), '6 5 4 3 2 1');
  await choose(player, screen.getByRole('combobox', { name: 'Clamps at the nut' }), 'open');
  await player.click(screen.getByRole('button', { name: /^Begin/ }));
  await follow(player, /and turn$/);
  expect(player.says('stop')).toContain('B1');
  await player.press('Escape');
  expect(player.says('instruction')).toContain('Press Enter: first');
  await player.press('l');
  expect(player.says('instruction')).toContain('Pluck');
  await follow(player, /and turn$|All strings are right/);
  await player.press('Escape');
  expect(player.says('lock-shifts')).toContain('Locking moved them');
});
