import { readingAt } from '../../../testing/guided';
import type { Heard } from '../pitch';
import type { Draft } from '../log';
import { createPlayer, type GuidedStep, type Procedure } from '.';

const HZ = 440;
const stepFor = (id: string): GuidedStep => ({
  step: { stringId: id, purpose: 'found' },
  named: { id, name: id.toUpperCase(), targetHz: HZ },
  others: [],
  belongsHz: HZ,
  expectedHz: HZ,
  toleranceCents: 3,
  foundCents: null,
});
const heard = (stringId: string, note: number, cents: number): Heard[] => [
  { kind: 'onset', note, atS: note },
  {
    kind: 'section',
    stringId,
    note,
    onsetS: note,
    fromS: note,
    toS: note + 1,
    part: 'whole',
    over: false,
    outcome: readingAt(HZ, cents),
  },
];

/** Reads the strings a, b and c, and writes each down. */
const procedure: Procedure<number, 'on', string[]> = {
  next: (_log, at) => (at < 3 ? stepFor('abc'[at]!) : undefined),
  heard: ({ reading: { cents } }, source, log, at) => ({
    state: at + 1,
    records: [{ type: 'room', tempC: Math.round(cents) } as Draft],
    say: `${'abc'[at]} ${cents.toFixed(0)} by ${source}, ${log.length} before.`,
  }),
  press: (_on, _log, at) => ({ state: at + 1 }),
};
function start(write: (records: Draft[]) => Promise<{ stand: boolean; trouble: string }> | undefined) {
  const log: string[] = [];
  const said: string[] = [];
  const player = createPlayer(procedure, 0, {
    log: () => log,
    write: (records) => {
      const written = write(records);
      if (written) return written.then((w) => (w.stand && log.push('written'), w));
      log.push('written');
      return undefined;
    },
    say: (words) => void said.push(words),
  });
  return { player, said, log };
}

test('what is heard is judged, written and said, and the next thing is asked for at once; what came for the step before is nothing', () => {
  const { player, said } = start(() => undefined);
  for (const h of heard('a', 1, -4)) player.hear(h, 'file');
  expect(player.step?.named.id).toBe('b');
  // The same sound goes on: it was read for a, and says nothing of b.
  for (const h of heard('a', 2, -4)) player.hear(h, 'file');
  for (const h of heard('b', 3, 7)) player.hear(h, 'file');
  expect(said).toEqual(['a -4 by file, 0 before.', 'b 7 by file, 1 before.']);
  player.ended();
  expect(said.at(-1)).toBe('End of the file. a -4 by file, 0 before. b 7 by file, 1 before.');
  player.ended();
  expect(said.at(-1)).toContain('Nothing was saved');
});

test('state and records stand together: what is pressed meanwhile waits; what was refused changes nothing', async () => {
  let answer: (written: { stand: boolean; trouble: string }) => void = () => undefined;
  const { player, said } = start(() => new Promise((resolve) => (answer = resolve)));
  for (const h of heard('a', 1, -4)) player.hear(h, 'microphone');
  player.press('on');
  expect(player.state).toBe(0);
  answer({ stand: true, trouble: '' });
  await new Promise((resolve) => setTimeout(resolve));
  // The reading, then the key.
  expect(player.state).toBe(2);
  for (const h of heard('c', 5, 1)) player.hear(h, 'microphone');
  answer({ stand: false, trouble: 'This was not kept.' });
  await new Promise((resolve) => setTimeout(resolve));
  expect(player.state).toBe(2);
  expect(said.at(-1)).toBe('This was not kept.');
  // Refused by the browser, held in memory: it stands all the same, and the trouble is what is said.
  for (const h of heard('c', 6, 1)) player.hear(h, 'microphone');
  answer({ stand: true, trouble: 'Held in memory.' });
  await new Promise((resolve) => setTimeout(resolve));
  expect([player.state, said.at(-1)]).toEqual([3, 'Held in memory.']);
});

test('a typed figure is as good as a reading of what is asked for; with another thing in hand all begins anew', () => {
  const { player, said } = start(() => undefined);
  expect(player.type('12', false, 440)).toBeUndefined();
  expect(said).toEqual(['a 12 by typed, 0 before.']);
  expect(player.step?.named.id).toBe('b');
  player.reset(0);
  expect(player.step?.named.id).toBe('a');
});
