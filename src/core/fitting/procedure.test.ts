import { keptAt, memoryLog } from '../../../testing/guided';
import { beginFitting, fittingAt, fittingProcedure, stringsToFit, type FittingAction, type FittingState } from '.';

/** One string of a guitar is fitted; what is done without sound is ticked until the given kind of step. */
function fit() {
  const memory = memoryLog('guitar-nylon', ['E4', 'B3']);
  let state: FittingState = beginFitting({
    stringIds: ['s1'],
    school: 'pull',
    index: 0,
    startedMs: memory.log().nowMs,
  });
  let said = '';
  const take = ({ state: next, records, say }: ReturnType<typeof fittingProcedure.press>) => {
    memory.write(records);
    state = next;
    said = say ?? said;
  };
  const at = () => fittingAt(memory.log(), state);
  const press = (action: FittingAction) => take(fittingProcedure.press(action, memory.log(), state));
  return {
    at,
    press,
    state: () => state,
    log: memory.log,
    next: () => fittingProcedure.next(memory.log(), state),
    said: () => said,
    own: () => memory.log().life.strings[0]!,
    to: (kind: string) => {
      for (let i = 0; i < 30 && at().step && at().step!.kind !== kind; i++) {
        if (at().sounding)
          take(
            fittingProcedure.heard(keptAt(329.628, 0.2, { arrival: 'from below' }), 'microphone', memory.log(), state),
          );
        else press({ do: 'done' });
      }
    },
    hear: (cents: number, more: Parameters<typeof keptAt>[2] = {}) =>
      take(fittingProcedure.heard(keptAt(329.628, cents, more), 'microphone', memory.log(), state)),
  };
}

test('the old string goes for a reason, the new one is put on once, however often one steps back', () => {
  const f = fit();
  f.to('remove');
  f.press({ do: 'removal', index: 2 });
  f.press({ do: 'removal', index: 99 });
  f.press({ do: 'done' });
  f.to('on');
  expect(stringsToFit(f.log(), f.state())).toHaveLength(1);
  f.press({ do: 'done' });
  expect(f.own().past).toHaveLength(1);
  const strungMs = f.own().strungMs;
  f.press({ do: 'back' });
  expect(stringsToFit(f.log(), f.state())).toEqual([]);
  f.press({ do: 'done' });
  expect(f.own().strungMs).toBe(strungMs);
  // Two semitones under is its own line, and a slack string is looked for far below.
  f.to('raise-under');
  expect(f.next()).toMatchObject({ toleranceCents: 40, named: { fresh: true } });
  expect(1200 * Math.log2(f.next()!.named.targetHz / 329.628)).toBeCloseTo(-200, 1);
});

test('rounds: stretched, read, brought up, until two drops in a row are small; a tuner learns nothing of them', () => {
  const f = fit();
  f.to('rounds');
  expect(f.next()).toBeUndefined();
  const round = (drop: number) => {
    f.press({ do: 'done' });
    expect(f.next()?.step.purpose).toBe('found');
    f.hear(0.2 - drop);
    if (f.state().phase === 'up') f.hear(0.2, { arrival: 'from below', learned: { other: true, gain: 2 } });
  };
  round(14);
  expect(f.own().rounds.map((r) => Math.round(r.dropCents))).toEqual([14]);
  expect(f.state().phase).toBe('stretch');
  round(1.5);
  expect(f.at().step?.kind).toBe('rounds');
  round(1);
  expect(f.said()).toContain('Stop stretching');
  expect(f.at().step?.kind).not.toBe('rounds');
  expect(f.own().tuner).toBeUndefined();
  expect(f.log().bench.treatments).toMatchObject([
    { treatment: 'stretched', note: expect.stringContaining('3 rounds') },
  ]);
});

test('brought up before it was read a round has no drop: the reading counts as left, and the string is stretched once more', () => {
  const f = fit();
  f.to('rounds');
  f.press({ do: 'done' });
  f.hear(-0.8, { turned: true });
  expect(f.own().rounds).toEqual([]);
  expect(f.said()).toContain('this round has no drop');
  expect(f.own().readings.at(-1)).toMatchObject({ purpose: 'as-left' });
  expect(f.own().readings.at(-1)).not.toHaveProperty('stretched');
  expect(f.state().phase).toBe('stretch');
});

test('what came from above is once more from below, or goes on by a key; steps are skipped with a note', () => {
  const f = fit();
  f.to('raise');
  const { code } = f.at().step!;
  f.hear(1, { arrival: 'from above' });
  expect(f.said()).toContain('came from above and may fall');
  expect(f.next()?.step).toMatchObject({ again: true });
  f.press({ do: 'done' });
  expect(f.at().step?.code).not.toBe(code);
  f.to('rounds');
  f.press({ do: 'note', text: 'old winding' });
  f.press({ do: 'skip', note: 'no time' });
  // Nothing was stretched: the step is skipped, and nothing says that it was done.
  expect(f.log().bench.treatments).toEqual([]);
});
