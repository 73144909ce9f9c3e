import { screen, within } from '@testing-library/react';
import { openApp } from '../../../../testing/player';

test('a trial is drawn by lot and judged; the demonstration’s has a verdict', async () => {
  const player = await openApp('/demo/trial');
  expect(player.says('verdict')).toMatch(/^Treated strings fell \d+ % less \(\d+ to \d+ %\)\.$/);
  expect(screen.getByRole('img', { name: /Ratio of the slopes.* from 4 pairs/ })).toBeVisible();
  await player.click(screen.getByRole('checkbox', { name: /Requinto/ }));
  await player.click(screen.getByRole('button', { name: 'Draw lots' }));
  const setUp = within(screen.getByRole('complementary', { name: 'Set up' }));
  expect(setUp.getAllByRole('listitem').filter((i) => /treated, .* not/.test(i.textContent!))).toHaveLength(3);
  expect(setUp.getByText(/^3 pairs give no verdict: 4 are needed\. Add one more pair/)).toBeVisible();
  await player.click(screen.getByRole('button', { name: 'Start' }));
  const newest = screen.getAllByRole('article')[0]!;
  expect(newest).toHaveTextContent('3 pairs, by lot within the instrument');
  expect(within(newest).getByTestId('verdict')).toHaveTextContent('Cannot tell yet: 4 pairs are needed, 1 more.');
  // The bench says who is treated, until it is ended.
  await player.go('/demo/bench/requinto');
  expect(player.says('trial')).toMatch(/stretched \/ not: treated .+; left alone .+/);
  await player.go('/demo/trial');
  await player.click(within(screen.getAllByRole('article')[0]!).getByRole('button', { name: 'End it' }));
  expect(screen.getAllByRole('article')[0]).toHaveTextContent('ended, 3 pairs');
  await player.go('/demo/bench/requinto');
  expect(screen.queryByTestId('trial')).toBeNull();
});
