import { screen, within } from '@testing-library/react';
import { doAsTold, figure, isFaint, shownCents } from '../../../../testing/hand';
import { openApp, type AppPlayer } from '../../../../testing/player';

/** Does as the wings say, by the pedal and the simulated hand, until a visit is over. @returns what strings were found and left at */
async function visit(player: AppPlayer): Promise<{ found: Map<string, number>; left: Map<string, number> }> {
  const found = new Map<string, number>();
  const left = new Map<string, number>();
  await player.press('PageDown');
  await player.pass(200);
  expect(player.says('instruction')).toMatch(/Pluck|Let it ring/);
  await doAsTold(
    player,
    () => {
      const kept = /^(\S+): ([+−]?[\d.]+) .*saved as (left|found)/.exec(player.says('message'));
      if (kept) (kept[3] === 'left' ? left : found).set(kept[1]!, figure(kept[2]));
      return /^(In |Now|Leave them)/.test(player.says('instruction'));
    },
    async () => {
      // Nor is a string taken by a figure that only stands there.
      if (!/to keep it as it is/.test(player.says('message')) || !(Math.abs(shownCents(player)) < 1.5) || isFaint())
        return false;
      await player.press('PageDown');
      await player.pass(600);
      return true;
    },
  );
  return { found, left };
}

/** A string this far from its lead is left alone; one that is brought there is kept so near to it; cents, as they are shown. */
const NEAR = 1.15;
const LEFT_WITHIN = 1.65;

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

test('a show in the wings by the pedal: the last tuning leaves strings above pitch and nobody calls it an error; then two pauses', async () => {
  const player = await openApp('/demo/plan', 3);
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
  const { found, left: tuned } = await visit(player);
  expect(tuning.size).toBe(6);
  // Each stands where it is to be left: brought there, or found there.
  for (const [note, lead] of tuning) {
    const left = tuned.get(note);
    expect(Math.abs((left ?? found.get(note)!) - lead)).toBeLessThan(left === undefined ? NEAR : LEFT_WITHIN);
  }
  expect(tuned.size).toBeGreaterThan(3);

  // On the bench it stands above pitch on purpose.
  await player.go('/demo/bench/requinto');
  const strings = within(screen.getByRole('region', { name: 'Strings' }));
  expect(strings.getAllByText(/^left at \+/)).toHaveLength(6);
  expect(strings.queryByText(/below, then up|bring it up/)).toBeNull();

  // Two pauses of the show: what is needed most, in the seconds given.
  await player.go('/demo/wings');
  await later(player, 'To the show');
  let retuned = 0;
  for (let piece = 0; piece < 2; piece++) {
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
    const { found, left } = await visit(player);
    expect(found.size).toBeGreaterThan(0);
    expect([...found.keys(), ...left.keys()].every((note) => asked.has(note))).toBe(true);
    // What is found where it would be left is left alone, and nothing else is.
    for (const [note, cents] of found)
      if (!left.has(note)) expect(Math.abs(cents - asked.get(note)!)).toBeLessThan(NEAR);
    retuned += left.size;
  }
  expect(retuned).toBeGreaterThan(0);
  expect(screen.queryByTestId('lead')).toBeNull();
});
