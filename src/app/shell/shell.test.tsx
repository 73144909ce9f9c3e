import { screen, within } from '@testing-library/react';
import { openApp } from '../../../testing/player';

const title = () => document.title;

test('the instrument in hand is kept from view to view, and the view from instrument to instrument; the keys are the work’s', async () => {
  const player = await openApp('/demo/bench');
  const follow = (name: string | RegExp) => player.click(screen.getByRole('link', { name }));
  await follow('New strings');
  await follow('String tensions');
  expect(title()).toBe('String tensions, Requinto, nylon · Slow Anchor');
  await player.click(
    within(screen.getByRole('navigation', { name: 'Instruments' })).getByRole('link', { name: /^Viola/ }),
  );
  expect(title()).toBe('String tensions, Viola · Slow Anchor');
  // Off to the plan and back: the viola is still in hand.
  await follow('Show');
  expect(title()).toBe('Schedule · Slow Anchor');
  await follow('Instruments');
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Viola');
  await player.press('PageDown');
  await player.sees('instruction', 'Pluck A4');
  // By keys from instrument to instrument and from view to view; a kantele has no octave view.
  await player.press('v');
  expect(title()).toBe('By ear, Viola · Slow Anchor');
  await player.press('Shift+V', 'Shift+V');
  expect(title()).toBe('Settings, Viola · Slow Anchor');
  await player.press('v');
  for (const name of ['Baritone', 'Bouzouki', 'Kantele']) {
    await player.press('.');
    expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent(name);
  }
  expect(title()).toBe('Check and tune, Kantele, 11 strings · Slow Anchor');
  expect(screen.queryByRole('link', { name: 'Intonation' })).toBeNull();
  await player.go('/demo/octave/kantele');
  expect(screen.getByText(/has no fingerboard/)).toBeVisible();
  // The map names the keys of this view, and of no other.
  await player.go('/demo/plan');
  await player.press('?');
  expect(screen.getByRole('dialog')).toHaveTextContent('Go to the next instrument');
  expect(screen.getByRole('dialog')).not.toHaveTextContent('Take back the last reading');
});

test('? opens the map of keys, Escape closes it, and the pedal works at once again', async () => {
  const player = await openApp('/demo/bench');
  await player.press('?');
  expect(
    within(screen.getByRole('dialog', { name: 'Keys, and the pedal’s' })).getByText('Listen, pause'),
  ).toBeVisible();
  await player.press('Enter', 'Escape');
  await player.pass(200);
  expect(screen.queryByRole('dialog')).toBeNull();
  await player.press('PageDown');
  await player.sees('instruction', 'Pluck A4');
});

test('the chart chosen by hand stays', async () => {
  const player = await openApp('/demo/bench');
  expect(document.documentElement.dataset.chart).toBe('day');
  await player.click(screen.getByRole('button', { name: 'Use the night chart' }));
  expect(document.documentElement.dataset.chart).toBe('night');
  await player.reload();
  expect(document.documentElement.dataset.chart).toBe('night');
  await player.click(screen.getByRole('button', { name: 'Use the day chart' }));
});

test('a demonstration whose new beginning was cut off in the middle opens whole', async () => {
  const player = await openApp('/demo/log');
  const whole = player.says('record-count');
  const { shelf, openStore } = player.means('demo');
  await shelf.setItem('state', { truth: {}, bridges: {}, zoneMin: 0, clockMs: 0, setAtMs: 0, resetting: true });
  await openStore('demo').clear();
  await player.reload();
  expect(player.says('record-count')).toBe(whole);
});
