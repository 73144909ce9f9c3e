import { readBench, type CheckpointRecord, type LogRecord } from '../log';
import { netOf, netTold } from '.';
import { MINUTE, DAY } from '../base';

const START = 1_780_000_000_000;
const base = { version: 2 as const, zoneMin: 0, instrumentId: 'x' };
const notes = ['A2', 'D3', 'G3'];
const ids = ['a', 'd', 'g'];
const instrument: LogRecord = {
  ...base,
  id: 'i',
  atMs: START,
  type: 'instrument',
  name: 'X',
  family: 'own',
  strings: notes.map((note, i) => ({ stringId: ids[i]!, note, lengthMm: 650, material: 'wound-nylon', gaugeMm: 0.8 })),
};
let serial = 0;
const pair = (
  stringId: string,
  againstId: string,
  cents: number,
  interval: [number, number],
  places?: CheckpointRecord['places'],
): CheckpointRecord => ({
  ...base,
  id: `c${++serial}`,
  atMs: START + MINUTE * serial,
  type: 'checkpoint',
  stringId,
  againstId,
  passId: 'p',
  anchorId: 'a',
  interval,
  expectCents: 0,
  cents,
  sigmaCents: 0.2,
  beatsHz: 0.5,
  ...(places ? { places } : {}),
});
const alone = (stringId: string, cents: number, atMs = START): LogRecord => ({
  ...base,
  id: `r${++serial}`,
  atMs,
  type: 'reading',
  stringId,
  purpose: 'as-found',
  source: 'microphone',
  frequencyHz: 110,
  cents,
  sigmaCents: 0.5,
  targetHz: 110,
  a4Hz: 440,
  partials: [],
});
const net = (records: LogRecord[], checkpoints: CheckpointRecord[]) => {
  const bench = readBench([instrument, ...records, ...checkpoints]);
  const found = netOf(bench.checkpoints, bench.instruments[0]!)!;
  return { ...found, told: netTold(found, notes, ids, 3).join(' ') };
};

test('a unison takes its way from strings that were read alone just now, never from an old reading', () => {
  const unison = pair('d', 'a', 4, [1, 1]);
  const known = net([alone('a', 1), alone('d', 5.2)], [unison]);
  expect(known.offsets[1]).toBeCloseTo(4, 0);
  expect(known.undecided).toEqual([]);
  expect(known.told).toContain('Move D3 down 4.');
  const old = net([alone('a', 1, START - DAY), alone('d', 5.2, START - DAY)], [unison]);
  expect(old.undecided).toEqual([0]);
  expect(old.told).toContain('It is not clear yet whether D3 is sharp or flat. Pluck it alone in a check.');
  expect(old.told).not.toContain('Move');
});

test('the odd one is named by where it was sounded; two that only contradict one another are both to be sounded again', () => {
  const fifths: [number, number] = [4, 3];
  const good = [
    pair('d', 'a', 0, fifths),
    pair('d', 'a', 0.2, [2, 1]),
    pair('g', 'd', 0.1, fifths),
    pair('g', 'a', 0, [8, 3]),
  ];
  const wrong = pair('g', 'a', 15, [2, 1], [{ fret: 2 }, { fret: 12, harmonic: true }]);
  const odd = net([], [...good, wrong]);
  expect(odd).toMatchObject({ suspect: [4], odd: true });
  expect(odd.told).toBe('G3 at fret 2 with A2, harmonic at fret 12 does not fit the rest. Sound it again.');
  const torn = net([], [pair('d', 'a', 0, fifths), pair('d', 'a', 12, [2, 1])]);
  expect(torn.told).toMatch(
    /^They do not agree yet\. Sound these again: D3 with A2 \(fourth\); D3 with A2 \(octave\)\./,
  );
});
