import { screen, within } from '@testing-library/react';
import { follow } from '../../../../testing/hand';
import { choose, giveFile, openApp, saved } from '../../../../testing/player';

const names = () =>
  within(screen.getByRole('table', { name: 'Instruments' }))
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getAllByRole('link')[0]!.textContent);

test('the rack: found by a word, sorted, grouped by owner, and walked through in the order shown', async () => {
  const player = await openApp('/demo/rack');
  expect(names()).toHaveLength(5);
  await choose(player, screen.getByRole('searchbox', { name: 'Find an instrument' }), 'cabin');
  expect(names().sort()).toEqual(['Kantele, 11 strings', 'Viola']);
  await choose(player, screen.getByRole('searchbox', { name: 'Find an instrument' }), '');
  await player.click(screen.getByRole('button', { name: 'Instrument' }));
  expect(names()[0]).toBe('Baritone, floating bridge');
  await choose(player, screen.getByRole('combobox', { name: /Grouped by/ }), 'owner');
  expect(names()[0]).toBe('Viola');
  for (const name of ['Choose Viola', 'Choose Requinto, nylon'])
    await player.click(screen.getByRole('checkbox', { name }));
  await player.click(screen.getByRole('button', { name: /^Walk through these 2/ }));
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Viola');
  expect(player.says('walk')).toBe('Walk: 1 of 2, then Requinto, nylon');
  // By the pedal alone: the check is done, and the next instrument comes.
  await follow(player, /^Done\. Press Enter: the next instrument/);
  await player.press('PageDown');
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Requinto, nylon');
  expect(player.says('walk')).toBe('Walk: 2 of 2');
  await player.click(screen.getByRole('button', { name: 'End the walk' }));
  expect(screen.queryByTestId('walk')).toBeNull();
});

test('a list with three faults is told line by line and not taken; mended it comes in, with owners and strings', async () => {
  const player = await openApp('/inventory');
  const head = 'Name,Kind,Owner,Place,Strung\n';
  const list = (lines: string) => new File([head + lines], 'school.csv', { type: 'text/csv' });
  await giveFile(
    player,
    'List of instruments',
    list('Viola 1,Viola,School,Room 2,2030-01-01\nViola 1,Viola,,,\nBass,steam organ,,,\n'),
  );
  const faults = within(screen.getByRole('region', { name: 'What is to be mended' })).getAllByRole('listitem');
  expect(faults.map((f) => f.textContent.slice(0, 6))).toEqual(['line 2', 'line 3', 'line 4']);
  expect(screen.getByRole('button', { name: /^Import \d/ })).toBeDisabled();
  await giveFile(player, 'List of instruments', list('Viola 1,Viola,School,Room 2,2026-01-01\nViola 2,Viola,,,\n'));
  expect(screen.queryByRole('region', { name: 'What is to be mended' })).toBeNull();
  await player.click(screen.getByRole('button', { name: 'Import 2 instruments' }));
  expect(names().sort()).toEqual(['Viola 1', 'Viola 2']);
  expect(screen.getByRole('table', { name: 'Instruments' })).toHaveTextContent('School');
  // It was the wrong list: it is taken back whole.
  await player.go('/log?kind=import');
  expect(screen.getByText('Imported school.csv: 7 entries')).toBeVisible();
  await player.click(screen.getByRole('button', { name: 'Take back' }));
  await player.go('/rack');
  expect(screen.getByText('No instrument is here yet. Add one, or import a list of many.')).toBeVisible();
});

test('one instrument’s life: whose it is, a remark, its sheet; what is exported is about it alone', async () => {
  const player = await openApp('/demo/life/baritone');
  expect(screen.getByText('Baritone, floating bridge: as found and as left')).toBeVisible();
  await choose(player, screen.getByRole('textbox', { name: 'Owner' }), 'The lighthouse');
  await player.click(screen.getByRole('button', { name: 'Save' }));
  await choose(player, screen.getByRole('textbox', { name: /Remark on/ }), 'The third saddle rattles');
  await player.click(screen.getByRole('button', { name: 'Save the remark' }));
  expect(within(screen.getByRole('region', { name: 'Remarks' })).getByText(/third saddle rattles/)).toBeVisible();
  const text = await saved(() => player.click(screen.getByRole('button', { name: 'Export this instrument (JSON)' })));
  const { records } = JSON.parse(text) as { records: { type: string; instrumentId?: string; owner?: string }[] };
  expect(new Set(records.map((r) => r.instrumentId))).toEqual(new Set(['baritone']));
  expect(records.some((r) => r.owner === 'The lighthouse')).toBe(true);
});

test('an entry is found and corrected where it stands, another taken back; a backup says how much is newer', async () => {
  const player = await openApp('/demo/log?instrument=viola&kind=reading');
  const lines = () => within(screen.getByRole('group', { name: 'Entries' })).getAllByRole('listitem');
  const before = lines().length;
  await player.click(within(lines()[0]!).getByRole('button', { name: 'Correct' }));
  await choose(player, screen.getByRole('textbox', { name: 'It read, cents or Hz' }), '-4.5');
  await player.click(screen.getByRole('button', { name: 'Save' }));
  expect(lines()).toHaveLength(before + 1);
  expect(lines().some((l) => /as found −4\.5 .* \(typed\)/.test(l.textContent))).toBe(true);
  await player.click(within(lines().at(-1)!).getByRole('button', { name: 'Take back' }));
  expect(player.says('entry-message')).toMatch(/^Taken back: Viola, /);
  await saved(() => player.click(screen.getByRole('button', { name: 'Save a backup file' })));
  expect(player.says('backup-message')).toMatch(/-backup\.json: \d+ entries/);
  expect(screen.getByRole('region', { name: 'Backup' })).toHaveTextContent(/Last backup .* 0 entries are newer/);
});
