import { screen, within } from '@testing-library/react';
import { follow } from '../../../../testing/hand';
import { BENCH_ALONE, openApp } from '../../../../testing/player';

const readSoFar = () => within(screen.getByRole('list', { name: 'What was read' })).getAllByRole('listitem').length;

test('the viola’s D peg is found, treated and proved, by the pedal alone', async () => {
  const player = await openApp('/demo/causes/viola', 1, BENCH_ALONE);
  expect(player.says('instruction')).toContain('Answer, or press Enter');
  await player.press('2');
  // What the log does not tell is asked: a letter answers, the pedal leaves it open.
  expect(screen.getByRole('heading', { name: 'When does it go?' })).toBeVisible();
  await follow(player, /^Do the steps beside/);
  expect(player.says('finding')).toMatch(/the peg or pin slips/i);
  expect(screen.getByRole('region', { name: 'What to do about it' })).toHaveTextContent('see a repairer');
  expect(screen.getByRole('list', { name: 'What was read' })).toHaveTextContent('For: ');
  const tests = readSoFar();
  // What was read is in the log, and goes on after a reload.
  await player.reload();
  expect(readSoFar()).toBe(tests);
  expect(player.says('instruction')).toContain('Do the steps beside');
  await player.press('PageDown');
  await follow(player, /^Done/);
  expect(player.says('message')).toContain('it helped');
  expect(screen.getByRole('link', { name: 'Compare treatments' })).toHaveAttribute(
    'href',
    expect.stringMatching(/what=peg\+treated/),
  );
  await player.go('/demo/log');
  expect(screen.getByText(/D4: treated because the peg or pin slips: helped/)).toBeVisible();
});

test('what was said on the way is not asked again', async () => {
  const player = await openApp('/demo/causes/viola?when=bending&strings=nonsense&constructor=x', 1, BENCH_ALONE);
  const asked: string[] = [];
  await player.press('2');
  for (; player.says('instruction').startsWith('Answer'); await player.press('Enter'))
    asked.push(...screen.getAllByRole('heading', { level: 2 }).map((h) => h.textContent!));
  expect(asked).not.toContain('When does it go?');
  expect(asked).toContain('How does it turn while you tune?');
});

test('a remedy is set up as a trial from its link', async () => {
  await openApp('/demo/trial?what=slot+lubricated+%2F+not&instrument=baritone');
  expect(screen.getByLabelText('What do you compare?')).toHaveValue('slot lubricated / not');
  expect(screen.getByRole('checkbox', { name: 'Baritone, floating bridge' })).toBeChecked();
});

test('with every test passed over it says that none is left, and begins anew', async () => {
  const player = await openApp('/demo/causes/viola', 1, BENCH_ALONE);
  await player.press('3');
  for (let n = 0; n < 30 && !player.says('instruction').startsWith('No test'); n++)
    await player.press(player.says('instruction').startsWith('Answer') ? 'Enter' : 's');
  expect(player.says('instruction')).toBe('No test is left that you can do. Press Enter to start again');
  expect(player.says('finding')).toMatch(/\.$/);
  await player.press('Enter');
  expect(player.says('instruction')).toContain('Answer, or press Enter');
});
