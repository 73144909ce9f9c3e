import { createGatherer, type PairMoment, type SteadyMoment } from '.';

const pair = (cents: number, sigmaCents = 0.2) => ({ cents, sigmaCents, beatsHz: 1 }) as PairMoment;

test('two strings are read when six moments in a row agree within half a cent, once; silence begins anew', () => {
  const gather = createGatherer();
  const hear = (...cents: number[]) => cents.map((c) => gather({ kind: 'pair', moment: pair(c) }));
  expect(hear(9, 6, 3, 1, 0.2)).toEqual([undefined, undefined, undefined, undefined, undefined]);
  const read = hear(0, 0.1, -0.1, 0.2, 0, 0.1).filter((r) => r !== undefined);
  expect(read).toHaveLength(1);
  expect(read[0]).toMatchObject({ kind: 'pair', beatsHz: 1 });
  hear(0, 0, 0, 0, 0);
  gather({ kind: 'pair', moment: null });
  expect(hear(0, 0, 0, 0, 0).every((r) => r === undefined)).toBe(true);
  expect(hear(0)[0]).toMatchObject({ cents: 0, sigmaCents: 0.2 });
});

test('a held tone is told when it is done, why it is none is told at once, each once', () => {
  const gather = createGatherer();
  const tone = (done: boolean) => ({ done, frequencyHz: 440 }) as SteadyMoment;
  const [running, done] = [tone(false), tone(true)];
  expect(gather({ kind: 'steady', moment: running })).toBeUndefined();
  expect(gather({ kind: 'steady', moment: done })).toMatchObject({ kind: 'steady', frequencyHz: 440 });
  expect(gather({ kind: 'steady', moment: done })).toBeUndefined();
  expect(gather({ kind: 'steady', moment: 'It wavers.' })).toEqual({ kind: 'refused', message: 'It wavers.' });
  expect(gather({ kind: 'steady', moment: null })).toBeUndefined();
});
