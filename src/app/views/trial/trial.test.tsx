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
  await player.click(screen.getByRole('button', { name: 'Start' }));
  const newest = screen.getAllByRole('article')[0]!;
  expect(newest).toHaveTextContent('3 pairs, by lot within the instrument');
  expect(within(newest).getByTestId('verdict')).toHaveTextContent('Cannot tell yet: 4 pairs are needed, 1 more.');
});
