import { keptAt, memoryLog } from '../../../testing/guided';
import type { Draft } from '../log';
import { checkPassOf, checkProcedure, checkStep, type CheckAction, type CheckState } from '.';
import type { StringStatus } from '../status';

const HZ = { s1: 659.255, s2: 440 };

/** A violin's two upper strings, and a player who does one thing after another. */
function play() {
  const memory = memoryLog('violin', ['E5', 'A4']);
  let state: CheckState = {};
  let said = '';
  const take = (outcome: ReturnType<typeof checkProcedure.press>) => {
    memory.write(outcome.records);
    ({ state } = outcome);
    if (outcome.say !== undefined) said = outcome.say;
  };
  return {
    press: (action: CheckAction) => take(checkProcedure.press(action, memory.log(), state)),
    hear: (
      cents: number,
      more: Parameters<typeof keptAt>[2] = {},
      source: 'microphone' | 'file' | 'typed' = 'microphone',
    ) =>
      take(
        checkProcedure.heard(
          keptAt(checkProcedure.next({ ...memory.log(), focusId: 's2' }, state)!.named.targetHz, cents, more),
          source,
          { ...memory.log(), focusId: 's2' },
          state,
        ),
      ),
    step: () => checkStep(memory.log(), state),
    next: () => checkProcedure.next(memory.log(), state),
    pass: () => checkPassOf(memory.log()),
    said: () => said,
    log: memory.log,
    write: (drafts: Draft[]) => memory.write(drafts),
    readings: () => memory.log().life.strings.map((s) => s.readings.map((r) => `${r.purpose} ${r.cents.toFixed(1)}`)),
  };
}

test('a pass: both as found, then the one that is off is brought up, and it is done', () => {
  const p = play();
  expect(p.next()).toBeUndefined();
  p.press({ do: 'start' });
  expect(p.step()).toEqual({ stringId: 's1', purpose: 'found' });
  p.hear(-9);
  expect(p.said()).toBe('E5: −9.0 ±0.5 cents, saved as found.');
  p.hear(1);
  expect(p.step()).toEqual({ stringId: 's1', purpose: 'left' });
  expect(p.next()).toMatchObject({ toleranceCents: 3, foundCents: expect.closeTo(-9, 5) });
  p.hear(0.4, { arrival: 'from below', learned: { other: false, gain: 1.3 } });
  expect(p.said()).toBe('E5: +0.4 ±0.5 cents, saved as left.');
  expect(p.step()).toBeUndefined();
  expect(p.readings()).toEqual([['as-found -9.0', 'as-left 0.4'], ['as-found 1.0']]);
  expect(p.log().life.strings[0]!.tuner).toMatchObject({ gain: 1.3 });
  p.press({ do: 'stop' });
  expect(p.pass()).toBeUndefined();
});

test('what came from above is offered once more from below; N goes on, and passes nothing else over', () => {
  const p = play();
  p.press({ do: 'start' });
  p.hear(20);
  p.hear(0);
  p.hear(1, { arrival: 'overshot' });
  expect(p.said()).toContain('came from above and may fall');
  expect(p.step()).toEqual({ stringId: 's1', purpose: 'left', again: true });
  p.press({ do: 'next' });
  expect(p.step()).toBeUndefined();
  expect(p.pass()?.skipped).toEqual([]);
});

test('a string can be passed over, chosen, stepped back to, taken back; alone it is a pass for it', () => {
  const p = play();
  p.press({ do: 'start' });
  p.press({ do: 'next' });
  expect(p.step()?.stringId).toBe('s2');
  p.press({ do: 'back' });
  expect(p.step()).toEqual({ stringId: 's1', purpose: 'found' });
  p.hear(-4);
  expect(p.readings()[0]).toEqual(['as-found -4.0']);
  p.press({ do: 'take-back' });
  expect(p.said()).toContain('taken back');
  expect(p.readings()[0]).toEqual([]);
  const alone = play();
  alone.press({ do: 'take-back' });
  expect(alone.said()).toContain('There is no reading in this check');
  alone.press({ do: 'choose', stringId: 's2' });
  expect(alone.step()).toEqual({ stringId: 's2', purpose: 'found' });
  alone.hear(0);
  expect(alone.step()).toBeUndefined();
});

test('a plan’s visit leaves strings above pitch, in its own order, and the figure counts from there', () => {
  const p = play();
  const strings = [
    { stringId: 's2', leadCents: 2 },
    { stringId: 's1', leadCents: 0 },
  ];
  p.press({ do: 'start', visit: { purpose: 'last', strings, bringUpFromCents: 1.5 } });
  expect(p.step()?.stringId).toBe('s2');
  p.hear(-6);
  p.hear(0);
  const step = p.next()!;
  expect(step.step).toEqual({ stringId: 's2', purpose: 'left' });
  expect(step.named.targetHz / HZ.s2).toBeCloseTo(2 ** (2 / 1200), 9);
  expect(step.belowCents).toBeLessThan(1);
  // Half a cent above its lead is two and a half above its target.
  p.hear(0.5, { arrival: 'from below' });
  expect(p.readings()[1]).toEqual(['as-found -6.0', 'as-left 2.5']);
  expect(p.said()).toContain('It should be left at +2.0.');
});

test('a second pluck that agrees confirms what moved at once', () => {
  const p = play();
  p.press({ do: 'start' });
  p.hear(-12);
  const { id } = p.log().life.strings[0]!.readings[0]!;
  const statuses = [{ stringId: 's1', leap: { readingId: id, cents: -12 } }] as unknown as StringStatus[];
  const leapt = { ...p.log(), statuses };
  expect(checkStep(leapt, {})).toEqual({ stringId: 's1', purpose: 'found', leapCents: -12 });
  const [reading] = checkProcedure.heard(keptAt(HZ.s1, -11), 'microphone', leapt, {}).records!;
  expect(reading).toMatchObject({ slip: true });
  const [other] = checkProcedure.heard(keptAt(HZ.s1, -2), 'microphone', leapt, {}).records!;
  expect(other).not.toHaveProperty('slip');
});

test('outside a pass a sound is told, a typed figure is kept, and a file begins a pass of its own', () => {
  const p = play();
  p.hear(-5);
  expect(p.said()).toContain('Press Enter to start a check');
  expect(p.readings()).toEqual([[], []]);
  p.hear(-5, { sigmaCents: 1 }, 'typed');
  expect(p.readings()[1]).toEqual(['as-found -5.0']);
  expect(p.pass()).toBeUndefined();
  p.hear(-6, {}, 'file');
  expect(p.pass()).toBeDefined();
  expect(p.log().life.strings[1]!.readings.at(-1)).toMatchObject({ passId: p.pass()!.passId, source: 'file' });
  expect(p.step()).toEqual({ stringId: 's1', purpose: 'found' });
});

test('a chosen string is brought up where this pass found it off, read again where it is stepped back to', () => {
  const p = play();
  p.press({ do: 'start' });
  p.hear(-9);
  p.hear(1);
  p.press({ do: 'choose', stringId: 's1' });
  expect(p.step()).toEqual({ stringId: 's1', purpose: 'left' });
  p.press({ do: 'choose', stringId: 's2' });
  expect(p.step()).toEqual({ stringId: 's2', purpose: 'found' });
  p.press({ do: 'back' });
  expect(p.step()).toEqual({ stringId: 's1', purpose: 'found' });
  // Nothing is before the first.
  p.press({ do: 'back' });
  expect(p.step()).toEqual({ stringId: 's1', purpose: 'found' });
  const { passId } = p.pass()!;
  p.press({ do: 'choose', stringId: 's2' });
  expect(p.pass()!.passId).toBe(passId);
});

test('the player’s word that it is this string is heard by the next pluck; N without a pass does nothing', () => {
  const p = play();
  p.press({ do: 'next' });
  p.press({ do: 'stop' });
  expect(p.log().life.strings.flatMap((s) => s.readings)).toEqual([]);
  p.press({ do: 'start' });
  expect(p.next()).toMatchObject({ insist: false });
  p.press({ do: 'insist' });
  expect(p.said()).toBe('Taken as E5. Pluck it again.');
  expect(p.next()).toMatchObject({ insist: true });
});

test('left off where it was to be, it is said: by the tolerance, from its lead; a pluck as far off as two and a half confirms nothing', () => {
  const left = (cents: number, leadCents: number) => {
    const p = play();
    const strings = [{ stringId: 's1', leadCents }];
    p.press({ do: 'start', visit: { purpose: 'last', strings, bringUpFromCents: 1 } });
    p.hear(-20);
    p.hear(cents, { arrival: 'from below' });
    return p.said();
  };
  expect(left(2.9, 2)).toMatch(/as left/);
  expect(left(3.1, 2)).not.toBe(left(2.9, 2));
  expect(left(-3.4, 2)).toMatch(/It should be left at \+2\.0/);
  const p = play();
  p.press({ do: 'start' });
  p.hear(-12);
  const { id } = p.log().life.strings[0]!.readings[0]!;
  const leapt = {
    ...p.log(),
    statuses: [{ stringId: 's1', leap: { readingId: id, cents: -12 } }] as unknown as StringStatus[],
  };
  const slips = (cents: number) => checkProcedure.heard(keptAt(HZ.s1, cents), 'microphone', leapt, {}).records![0];
  expect(slips(-9.6)).toMatchObject({ slip: true });
  expect(slips(-9.4)).not.toHaveProperty('slip');
  expect(slips(-12)).not.toHaveProperty('leadCents');
  expect(slips(-12)).toMatchObject({ passId: p.pass()!.passId });
});
