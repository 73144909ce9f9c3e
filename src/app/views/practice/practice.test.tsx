import { screen, within } from '@testing-library/react';
import { earTrial, type EarTrial, type StaircaseAnswer } from '../../../core/practice';
import { BENCH_ALONE, giveFile, openApp, saved } from '../../../../testing/player';

test('hands, by keys alone: a string is brought up from below, done is told with the truth, and the course is kept', async () => {
  const player = await openApp('/demo/practice', 1, BENCH_ALONE);
  expect(player.says('instruction')).toBe('Next: From slack to pitch');
  await player.press('Enter');
  const cents = () => Number(player.says('pitch').replace('−', '-'));
  for (let i = 0; i < 60 && cents() < -45; i++) await player.press('Shift+ArrowUp');
  for (let i = 0; i < 60 && cents() < -2; i++) await player.press('ArrowUp');
  await player.press('Enter');
  expect(player.says('report')).toMatch(/It stands .* cents from its target.*came from below.*% of its breaking load/s);
  expect(screen.getByRole('img', { name: 'The path of pitch over time' })).toBeVisible();
  await player.press('Enter');
  expect(within(screen.getByRole('region', { name: 'Hands' })).queryAllByText('not done yet')).toHaveLength(7);
  // Practice is no reading, and of no instrument.
  await player.go('/demo/log?kind=exercise');
  expect(screen.getByText(/Practice, from slack/)).toBeVisible();
  await player.go('/demo/log?kind=exercise&instrument=requinto');
  expect(screen.queryByText(/Practice, from slack/)).toBeNull();
});

test('an ear that tells six cents is found by its answers; a handed-out exercise gives the same notes', async () => {
  const player = await openApp('/demo/practice', 1, BENCH_ALONE);
  const text = JSON.stringify({
    kind: 'slow-anchor-exercise',
    version: 1,
    practice: 'ear',
    exercise: 'flat-sharp-middle',
    seed: 11,
    task: 'For Thursday',
  });
  await giveFile(player, 'Exercise file', new File([text], 'exercise.json', { type: 'application/json' }));
  const trials: StaircaseAnswer[] = [];
  for (let i = 0; i < 40; i++) {
    const trial: EarTrial = earTrial('flat-sharp-middle', 11, trials);
    // Told rightly from six cents on; below that always sharp.
    const sharp = trial.cents >= 6 ? trial.up : true;
    trials.push({ cents: trial.cents, right: sharp === trial.up });
    await player.press(sharp ? 'ArrowUp' : 'ArrowDown');
  }
  const told = /You tell ([\d.]+) cents/.exec(player.says('report'))!;
  expect(Number(told[1])).toBeGreaterThan(3);
  expect(Number(told[1])).toBeLessThan(9);
  await player.press('Enter');
  const result = JSON.parse(
    await saved(() => player.click(screen.getByRole('button', { name: 'Save my last result' }))),
  ) as {
    kind: string;
    task: string;
    trials: StaircaseAnswer[];
  };
  expect(result).toMatchObject({ kind: 'slow-anchor-exercise-result', task: 'For Thursday' });
  expect(result.trials).toEqual(trials);
});

test('a fault hunt ends in a verdict with the truth shown; a file that is no exercise is refused', async () => {
  const player = await openApp('/demo/practice', 1, BENCH_ALONE);
  await giveFile(player, 'Exercise file', new File(['{}'], 'other.json', { type: 'application/json' }));
  expect(player.says('message')).toContain('other.json: This is no exercise of Slow Anchor.');
  await player.click(screen.getByRole('button', { name: 'Find a hidden fault' }));
  await player.click(screen.getByRole('button', { name: 'Press behind the nut' }));
  await player.click(screen.getByRole('button', { name: 'A hard bend or pull' }));
  expect(within(screen.getByRole('list', { name: 'What was read' })).getAllByRole('listitem')).toHaveLength(3);
  await player.click(within(screen.getByRole('group', { name: 'Say why' })).getAllByRole('button')[0]!);
  expect(player.says('report')).toMatch(/^(Right: |It was another: ).*You took 2 tests\..*finder would say: /s);
});

test('a whole job by keys: a floating bridge is zeroed in passes, its truth is told, its course is kept; By ear knows a practised ear', async () => {
  const player = await openApp('/demo/practice', 1, BENCH_ALONE);
  await player.click(screen.getByRole('button', { name: 'Bring a floating bridge in' }));
  const inHand = () =>
    Number(
      screen
        .getAllByRole('definition')
        .find((d) => d.className.includes('text-2xl'))!
        .textContent!.replace('−', '-'),
    );
  for (let pass = 0; pass < 4; pass++)
    for (let i = 1; i <= 6; i++) {
      await player.press(String(i));
      for (let k = 0; k < 30 && inHand() < -1.2; k++) await player.press(inHand() < -18 ? 'Shift+ArrowUp' : 'ArrowUp');
      for (let k = 0; k < 30 && inHand() > 1.2; k++) await player.press('ArrowDown');
    }
  await player.press('Enter');
  expect(player.says('report')).toMatch(/6 of 6 strings stand within ±3 cents.*passes over all six.*zeroing takes \d/s);
  expect(screen.getByRole('img', { name: 'Where the strings stand' })).toBeVisible();
  await player.press('Enter');
  expect(within(screen.getByRole('region', { name: 'Whole jobs' })).queryAllByText('not done yet')).toHaveLength(8);
  await player.go('/demo/log?kind=exercise');
  expect(screen.getByText(/Practice, floating bridge: [\d.]+ passes/)).toBeVisible();
});
