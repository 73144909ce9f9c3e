import { screen } from '@testing-library/react';
import { choose, giveFile, openApp, saved } from '../../../../testing/player';

test('pure fifths from A: what they cost, in force by a key, one choice on the bench, and back', async () => {
  const player = await openApp('/demo/tuning/viola');
  await player.click(screen.getByRole('button', { name: 'Pure fifths from A' }));
  expect(player.says('cost')).toContain('major sixth from C3 to A4, +21.5 cents');
  expect(player.says('cost')).toContain('the C3 stands −5.9');
  await player.press('PageDown');
  expect(player.says('message')).toContain('In force from now on: Its own notes, pure fifths');
  await player.go('/demo/bench/viola');
  const choice = screen.getByLabelText('Tuned as');
  expect(choice).toHaveValue('Its own notes, pure fifths');
  // The C stood near its equal-tempered place: against the pure one it is sharp.
  const c = () => screen.getByRole('button', { name: /C3, / });
  expect(c()).toHaveTextContent(/\+5\.\d/);
  await choose(player, choice, 'its own notes, equal');
  expect(c()).toHaveTextContent(/−0\.\d/);
});

test('a tuning leaves as a file and comes back; another instrument’s is refused with its reason', async () => {
  const player = await openApp('/demo/tuning/baritone');
  await player.click(screen.getByRole('button', { name: 'A half step down' }));
  await choose(player, screen.getByLabelText('Capo'), '2');
  await choose(player, screen.getByLabelText('Name'), 'For the second half');
  const text = await saved(() => player.click(screen.getByRole('button', { name: 'Save as a file' })));
  const kept = JSON.parse(text) as { capo: number; strings: { note: string }[] };
  expect(kept.capo).toBe(2);
  expect(kept.strings[5]!.note).toBe('C2');
  const file = new File([text], 'tuning.json', { type: 'application/json' });
  await player.reload();
  await giveFile(player, 'Tuning file', file);
  expect(player.says('message')).toContain('For the second half is laid out below');
  expect(screen.getByLabelText('Note of string 6')).toHaveValue('A#1');
  await player.go('/demo/tuning/viola');
  await giveFile(player, 'Tuning file', file);
  expect(player.says('message')).toBe('That tuning is for 6 strings, this instrument has 4.');
});
