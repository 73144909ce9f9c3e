import { screen } from '@testing-library/react';
import { doAsTold, figure, pluckString, shownCents } from '../../../../testing/hand';
import { addInstrument, choose, BENCH_ALONE, openApp } from '../../../../testing/player';

const code = () => screen.getByTestId('step').getAttribute('data-code');

test('a nylon string is restrung by keys alone: fitted, up from seven semitones low, two rounds, left', async () => {
  const player = await openApp('/demo/fitting/requinto/s1', 1, BENCH_ALONE);
  expect(player.says('step')).toBe('Slacken A4, then take it off');
  expect(screen.getByText(/ends of steel and wound strings are sharp/)).toBeVisible();
  for (const title of ['Look at nut and bridge', 'Put A4 on: 100 mm of slack', 'Bring A4 up to two semitones under']) {
    await player.press('PageDown');
    expect(player.says('step')).toContain(title);
  }
  await player.press('p');
  await player.until(() => shownCents(player) < -440, 4000, 'the slack string is heard');
  await doAsTold(player, () => code() === 'bed');
  await player.press('PageDown');
  await doAsTold(player, () => code() === 'warm');
  await player.press('PageDown');

  const drops: number[] = [];
  for (let round = 1; round <= 2; round++) {
    expect(player.says('instruction')).toBe('Pull away, then press Enter');
    await player.press('PageDown');
    await player.sees('instruction', 'touch no tuner');
    for (let i = 0; i < 4 && !/Dropped/.test(player.says('message')); i++) await pluckString(player);
    drops.push(figure(player.says('message').replace('Dropped ', '')));
    await doAsTold(player, () => player.says('instruction').startsWith('Pull away'));
  }
  expect(drops[0]).toBeGreaterThan(10);
  expect(drops[1]).toBeLessThan(drops[0]!);
  expect(screen.getByRole('img', { name: /Drops so far/ })).toBeVisible();

  // Enough: the rounds end at the player's word.
  await player.press('s', 'Enter');
  expect(player.says('step')).toBe('Fitted');
  expect(screen.getByText(/dropped [\d, ]+ cents in 2 rounds, left at/)).toBeVisible();
  await player.press('Enter');
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Requinto, nylon');

  await player.go('/demo/log');
  for (const sentence of ['taken off, worn', 'new string, 3 turns', 'stretch round, dropped', 'stretched (2 rounds'])
    expect(screen.getAllByText((text) => text.includes(sentence)).length).toBeGreaterThan(0);
  expect(screen.getAllByText(/A4: as left [^ ]+ ±\S+ cents \(simulated, from below/).length).toBeGreaterThan(0);
});

test('a second break at one place says so; a step is skipped with its reason; the place survives a reload', async () => {
  const player = await openApp('/add');
  await addInstrument(player, 'Ukulele');
  const id = player.path().split('/').pop()!;
  const breakAtNut = async () => {
    await player.go(`/fitting/${id}/s2`);
    expect(player.says('step')).toContain('Slacken E4');
    await player.press('3');
  };
  await breakAtNut();
  expect(screen.queryByText(/strings have broken/)).toBeNull();
  await player.press('Enter');
  expect(player.says('step')).toContain('Look at nut');
  await player.press('s');
  await choose(player, screen.getByLabelText('Why (you can leave this empty)'), 'slot is bone, clean');
  screen.getByLabelText('Why (you can leave this empty)').focus();
  await player.press('Enter');
  expect(player.says('step')).toContain('Put E4 on');
  await player.reload();
  expect(player.says('step')).toContain('Put E4 on');
  await player.press('PageUp', 'PageUp');
  expect(player.says('step')).toContain('Slacken E4');
  // Said again of the string already off, it is the same break.
  await player.press('3');
  expect(screen.queryByText(/strings have broken/)).toBeNull();
  for (const title of ['Look at nut', 'Put E4 on', 'Bring E4 up']) {
    await player.press('Enter');
    expect(player.says('step')).toContain(title);
  }
  // Stepped back and on again it is one new string, not two; Page Down alone brings nothing up.
  await player.press('PageUp', 'Enter');
  expect(player.says('step')).toContain('Bring E4 up');
  await player.press('PageDown');
  await player.pass(500);
  expect(player.says('step')).toContain('Bring E4 up');
  await player.press('Escape');
  expect(screen.getByRole('link', { name: 'Check and tune' })).toHaveAttribute('aria-current', 'page');
  await breakAtNut();
  expect(screen.getByText(/2 strings have broken at the nut here/)).toBeVisible();
  await player.go('/log');
  expect(screen.getByRole('main')).toHaveTextContent('look skipped (slot is bone, clean)');
  expect(screen.getAllByText(/taken off, broke at the nut/).length).toBeGreaterThan(0);
  // The one that it was strung with, and the one that was fitted.
  expect(screen.getAllByText(/E4: new string/)).toHaveLength(2);
});

test('turned too far, the bench calls stop before the string breaks; turned on, it breaks', async () => {
  const player = await openApp('/demo/bench/requinto', 1, BENCH_ALONE);
  await player.press('Enter');
  const level = () => screen.queryByTestId('guard')?.getAttribute('data-level');
  for (let i = 0; i < 60 && level() !== 'stop'; i++) {
    if (i % 12 === 0) await player.press('p');
    await player.press('Shift+ArrowUp');
    await player.pass(120);
  }
  expect(level()).toBe('stop');
  expect(player.says('guard')).toContain('Stop, let it down');
  expect(screen.queryByText(/It broke\./)).toBeNull();
  for (let i = 0; i < 40; i++) await player.press('Shift+ArrowUp');
  expect(screen.getByText(/It broke\. Put on a new string/)).toBeVisible();
});
