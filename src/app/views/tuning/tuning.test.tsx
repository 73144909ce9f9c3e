import { act, fireEvent, screen } from '@testing-library/react';
import { addInstrument, choose, giveFile, openApp, saved } from '../../../../testing/player';

test('pure fifths from A: what they cost, in force by a key, one choice on the bench, and back', async () => {
  const player = await openApp('/demo/tuning/viola');
  await player.click(screen.getByRole('button', { name: 'Pure fifths from A' }));
  expect(player.says('cost')).toContain('major sixth from C3 to A4, +21.5 cents');
  expect(player.says('cost')).toContain('C3 is −5.9');
  await player.press('PageDown');
  expect(player.says('message')).toContain('In use from now on: Its own notes, pure fifths');
  await player.go('/demo/bench/viola');
  const choice = screen.getByLabelText('Tuned as');
  expect(choice).toHaveValue('Its own notes, pure fifths');
  // The C stood near its equal-tempered place: against the pure one it is sharp.
  const c = () => screen.getByRole('button', { name: /C3, / });
  expect(c()).toHaveTextContent(/\+5\.\d/);
  await choose(player, choice, 'its own notes');
  expect(c()).toHaveTextContent(/−0\.\d/);
  await player.go('/demo/tuning/viola');
  await player.click(screen.getByRole('button', { name: 'Delete Its own notes, pure fifths' }));
  expect(player.says('message')).toContain('no longer offered');
  expect(screen.queryByRole('button', { name: 'Its own notes, pure fifths' })).toBeNull();
});

test('a tuning leaves as a file and comes back; another instrument’s is refused with its reason', async () => {
  const player = await openApp('/demo/tuning/baritone');
  await player.click(screen.getByRole('button', { name: 'A half step down' }));
  await choose(player, screen.getByLabelText('Name'), 'For the second half');
  await choose(player, screen.getByLabelText('Capo'), '2');
  expect(screen.getByLabelText('Name')).toHaveValue('For the second half');
  const text = await saved(() => player.click(screen.getByRole('button', { name: 'Save as a file' })));
  const kept = JSON.parse(text) as { capo: number; strings: { note: string }[] };
  expect(kept.capo).toBe(2);
  expect(kept.strings[5]!.note).toBe('C2');
  const file = new File([text], 'tuning.json', { type: 'application/json' });
  await player.reload();
  await giveFile(player, 'Tuning file', file);
  expect(player.says('message')).toContain('For the second half is shown below');
  expect(screen.getByLabelText('Note of string 6')).toHaveValue('A#1');
  await player.go('/demo/tuning/viola');
  await giveFile(player, 'Tuning file', file);
  expect(player.says('message')).toBe('That tuning is for 6 strings. This instrument has 4.');
});

test('a tuning that takes a string near its break is named before it is used, used only when asked twice, and is in force in String set too', async () => {
  const player = await openApp('/add');
  await addInstrument(player, 'Six-string guitar, steel');
  const open = async () => {
    await player.click(screen.getByRole('link', { name: 'Tune' }));
    await player.click(screen.getByRole('link', { name: 'Other tunings' }));
    const note = screen.getByLabelText('Note of string 1');
    await choose(player, note, 'A4');
    act(() => void fireEvent.blur(note));
  };
  await open();
  expect(screen.getByRole('list', { name: 'What the strings bear' })).toHaveTextContent(/A4 would pull \d+ %/);
  await player.press('Enter');
  expect(player.says('message')).toMatch(
    /A4 would pull \d+ % of its breaking load: do not bring it up.* ask for it once more\./,
  );
  await player.click(screen.getByRole('link', { name: 'New strings' }));
  await player.click(screen.getByRole('link', { name: 'String tensions' }));
  expect(screen.queryByText(/As tuned now/)).toBeNull();
  await open();
  await player.press('Enter');
  await player.press('Enter');
  expect(player.says('message')).toContain('In use from now on');
  await player.click(screen.getByRole('link', { name: 'New strings' }));
  await player.click(screen.getByRole('link', { name: 'String tensions' }));
  expect(screen.getByRole('list', { name: 'Warnings' })).toHaveTextContent(/A4 would pull/);
  expect(screen.getByText(/As tuned now/)).toBeVisible();
});
