import { screen, within } from '@testing-library/react';
import { figure } from '../../../../testing/hand';
import { openApp, typeFigure, type AppPlayer } from '../../../../testing/player';

/** A string that was left alone stands so far under its place, cents. */
const FOUND_CENTS = -4;

/** Does as the wings say, by typed figures: a string is found flat, then brought to where it is to be left. @returns what strings were left at */
async function visit(player: AppPlayer, asked: ReadonlyMap<string, number>): Promise<Map<string, number>> {
  const left = new Map<string, number>();
  await player.press('PageDown');
  await player.pass(200);
  for (let i = 0; i < 40 && !/^(In |Now|Leave them)/.test(player.says('instruction')); i++) {
    await player.pass(600);
    const sentence = player.says('instruction');
    const [note, lead] = [...asked].find(([n]) => sentence.includes(n))!;
    await typeFigure(player, String(/touch no tuner|again/.test(sentence) ? FOUND_CENTS : lead));
    const kept = /^(\S+): ([+−]?[\d.]+) .*saved as left/.exec(player.says('message'));
    if (kept) left.set(note, figure(kept[2]));
  }
  return left;
}

/** The strings that are asked for, and how far above pitch each is to be left. */
const asks = (player: AppPlayer) =>
  new Map(
    player
      .says('asked')
      .trim()
      .split(/\s{3}/)
      .map((a) => [a.split(' ')[0]!, figure(a.split(' ')[1] ?? '0')]),
  );

const later = async (player: AppPlayer, button: string, times = 1) => {
  for (let i = 0; i < times; i++) await player.click(screen.getByRole('button', { name: button }));
};

test('a show in the wings by the pedal: the last tuning leaves strings above pitch and nobody calls it an error; then a pause', async () => {
  const player = await openApp('/demo/plan', 3, []);
  await player.press('e');
  const sheet = within(screen.getByRole('dialog', { name: 'The show' }));
  for (const name of ['Viola', 'Baritone, floating bridge', 'Bouzouki, loose bridge', 'Kantele, 11 strings'])
    await player.click(sheet.getByRole('checkbox', { name }));
  await player.click(sheet.getByRole('button', { name: 'Plan it' }));
  await player.pass(500);
  expect(screen.queryByRole('dialog')).toBeNull();
  // Three plans side by side; the middle one is in force.
  const choices = () => within(screen.getByRole('region', { name: 'How often will you come' })).getAllByRole('button');
  expect(choices().map((c) => c.getAttribute('aria-pressed'))).toEqual(['false', 'true', 'false']);
  expect(choices()[1]).toHaveTextContent(/\d \+ \d checks/);
  await player.click(choices()[2]!);
  expect(player.says('message')).toMatch(/^Before: .* Now: \d check/);
  expect(choices()[2]).toHaveAttribute('aria-pressed', 'true');

  await player.press('w');
  expect(player.says('countdown')).toMatch(/^5 h 2[34]$/);
  expect(player.says('instruction')).toMatch(/^In /);
  await later(player, '+1 h', 5);
  await later(player, '+10 min');
  expect(screen.getAllByText('Requinto, nylon: the last tuning')[0]).toBeVisible();
  expect(player.says('asked')).toMatch(/A4 \+[1-4]\.\d/);
  const tuning = asks(player);
  expect(tuning.size).toBe(6);
  expect(await visit(player, tuning)).toEqual(tuning);

  // On the bench it stands above pitch on purpose.
  await player.go('/demo/bench/requinto');
  const strings = within(screen.getByRole('region', { name: 'Strings' }));
  expect(strings.getAllByText(/^left at \+/)).toHaveLength(6);
  expect(strings.queryByText(/below, then up|bring it up/)).toBeNull();

  // A pause of the show: what is needed most, in the seconds given.
  await player.go('/demo/wings');
  await later(player, 'To the show');
  for (let i = 0; i < 8 && player.says('instruction') !== 'Now'; i++) {
    await later(player, '+10 min');
    await player.pass(1200);
  }
  expect(player.says('instruction')).toBe('Now');
  expect(screen.getAllByText('Requinto, nylon: retune it')[0]).toBeVisible();
  const asked = asks(player);
  await player.press('PageDown');
  expect(screen.getByText(/\d left$/)).toBeVisible();
  await player.press('Escape');
  expect(player.says('message')).toContain('Stopped.');
  const left = await visit(player, asked);
  expect(left.size).toBeGreaterThan(0);
  expect(left).toEqual(new Map([...asked].filter(([note]) => left.has(note))));
  expect(screen.queryByTestId('lead')).toBeNull();
});
