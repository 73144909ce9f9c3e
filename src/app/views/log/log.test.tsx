import { readFileSync } from 'node:fs';
import { screen, within } from '@testing-library/react';
import { ALL_SAMPLES } from '../../../../testing/samples';
import { addInstrument, giveFile, openApp, saved, type AppPlayer } from '../../../../testing/player';
import { MINUTE } from '../../../core/base';

const count = (player: AppPlayer) => Number(player.says('record-count'));
const exported = async (player: AppPlayer) =>
  JSON.parse(await saved(() => player.click(screen.getByRole('button', { name: 'Export everything (JSON)' })))) as {
    records: { id: string }[];
  };
const jsonFile = (name: string, text: string) => new File([text], name, { type: 'application/json' });

test('export, import into an empty profile, export again: the same records; importing twice changes nothing', async () => {
  const player = await openApp('/demo/log');
  const whole = count(player);
  const first = await exported(player);
  expect(first.records).toHaveLength(whole);
  const csv = await saved(() => player.click(screen.getByRole('button', { name: 'Export readings (CSV)' })));
  expect(csv.split('\r\n')[0]).toContain('offset (cents)');
  expect(csv.split('\r\n').length).toBeGreaterThan(200);

  await player.go('/log');
  expect(count(player)).toBe(0);
  const file = jsonFile('log.json', JSON.stringify(first));
  const message = () => player.says('log-message');
  await giveFile(player, 'JSON export', file);
  await player.until(() => /new entries/.test(message()), 2000, 'it is imported');
  expect(message()).toContain(`log.json: ${whole} new entries, about `);
  expect(message()).toContain('; 0 were here already.');
  await giveFile(player, 'JSON export', file);
  await player.until(() => /^log.json: 0 /.test(message()), 2000, 'it is known');
  expect(message()).toBe(`log.json: 0 new entries; ${whole} were here already.`);
  await player.reload();
  const again = (await exported(player)).records as unknown as { type: string }[];
  expect(again.filter((r) => r.type !== 'import')).toEqual(first.records);
  expect(again).toHaveLength(whole + 1);
  await player.go('/bench');
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Requinto, nylon');
});

test('a faulty file is refused whole, with the place of its first fault', async () => {
  const player = await openApp('/add');
  await addInstrument(player, 'Ukulele');
  await player.go('/log');
  const before = count(player);
  const good = await exported(player);
  const bad = {
    ...good,
    records: [...good.records.map((r) => ({ ...r, id: `x${r.id}` })), { type: 'reading', id: 'y' }],
  };
  await giveFile(player, 'JSON export', jsonFile('bad.json', JSON.stringify(bad)));
  await player.until(() => player.says('log-message') !== '', 2000, 'it is refused');
  expect(player.says('log-message')).toContain(`bad.json: Record ${bad.records.length} `);
  expect(player.says('log-message')).toContain('Nothing was imported.');
  await giveFile(player, 'JSON export', jsonFile('broken.json', '{"format":'));
  await player.until(() => /^broken/.test(player.says('log-message')), 2000, 'it is refused');
  expect(player.says('log-message')).toContain('broken.json: The file is no JSON');
  await player.reload();
  expect(count(player)).toBe(before);
});

test('a record of every type says itself in a line, without a hole', async () => {
  const player = await openApp('/bench');
  await player.means('own').openStore('own').append(ALL_SAMPLES);
  await player.go('/log');
  expect(count(player)).toBe(ALL_SAMPLES.length);
  const lines = screen.getAllByRole('listitem').map((i) => i.textContent!);
  expect(lines.length).toBeGreaterThanOrEqual(ALL_SAMPLES.length);
  for (const line of lines) expect(line).not.toMatch(/undefined|NaN|null|\[object/);
  expect(lines.some((l) => l.includes('Sample, E4: as left +1.2 ±0.5 cents (microphone, from below)'))).toBe(true);
  expect(lines.some((l) => l.includes('Sample: tuned as Down a half step (D#4 G#3)'))).toBe(true);
});

const example = () => jsonFile('boat.json', readFileSync('docs/example-log.json', 'utf8'));
const rowOf = (words: RegExp) => within(screen.getByText(words).closest('li')!);

test('an import is one entry: taken back whole, and brought back', async () => {
  const player = await openApp('/log');
  await giveFile(player, 'JSON export', example());
  await player.until(() => /new entries/.test(player.says('log-message')), 2000, 'it is imported');
  await player.go('/log?kind=import');
  await player.click(rowOf(/^Imported boat.json: 29 entries/).getByRole('button', { name: 'Take back' }));
  expect(player.says('entry-message')).toBe('Taken back: Imported boat.json: 29 entries.');
  // What it brought is told with the names that it brought.
  await player.go('/log?kind=fitted');
  expect(screen.getAllByText(/Ukulele of the deck, A4: new string/)[0]).toHaveClass('line-through');
  await player.go('/bench');
  expect(screen.queryByText('Ukulele of the deck')).toBeNull();
  await player.go('/log');
  await giveFile(player, 'JSON export', example());
  await player.until(() => /^boat.json: 0 /.test(player.says('log-message')), 2000, 'it is known');
  expect(player.says('log-message')).toContain('28 of them no longer count: they were corrected or taken back here.');
  await player.go('/log?kind=taken-back');
  await player.click(rowOf(/^Taken back: Imported boat.json/).getByRole('button', { name: 'Bring it back' }));
  await player.go('/bench');
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Ukulele of the deck');
});

test('corrected differently on both devices: the file says so, and the other correction can be chosen', async () => {
  const player = await openApp('/log');
  await giveFile(player, 'JSON export', example());
  await player.until(() => /new entries/.test(player.says('log-message')), 2000, 'it is imported');
  const log = JSON.parse(readFileSync('docs/example-log.json', 'utf8')) as { records: Record<string, unknown>[] };
  const b1 = log.records.find((r) => r['id'] === 'b1')!;
  const corrected = (id: string, cents: number, by: string, seq: number) => ({
    ...b1,
    id,
    cents,
    supersedes: 'b1',
    written: { by, seq, atMs: Number(b1['atMs']) + seq * MINUTE },
  });
  const both = ['mine', 'theirs'].map((id, k) =>
    jsonFile(`${id}.json`, JSON.stringify({ ...log, records: [...log.records, corrected(id, -4 - 9 * k, id, k + 1)] })),
  );
  for (const [k, file] of both.entries()) {
    await giveFile(player, 'JSON export', file);
    await player.until(() => new RegExp(`^${file.name}`).test(player.says('log-message')), 2000, `file ${k}`);
  }
  expect(player.says('log-message')).toContain(
    'Corrected differently on both: Ukulele of the deck, A4, 14:30. The later correction stands.',
  );
  await player.click(screen.getByRole('button', { name: 'Choose between them' }));
  await player.until(() => player.says('record-count') === '2', 2000, 'those two alone');
  await player.click(rowOf(/A4: as found −4\.0/).getByRole('button', { name: 'Use this one' }));
  expect(player.says('entry-message')).toContain('It stands again');
  expect(screen.getByText(/A4: as found −13\.0/)).toHaveClass('line-through');
  const csv = await saved(() => player.click(screen.getByRole('button', { name: 'Export readings (CSV)' })));
  expect(csv.match(/-4\.000/g)).toHaveLength(1);
  expect(csv).not.toContain('-13.000');
});
