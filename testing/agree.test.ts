import { readFileSync } from 'node:fs';
import { contradictions, misquoted } from './agree';
import { drawAudited } from '../bench/audit/world';
import { HOUR } from '../src/core/base';
import { readBench, type LogRecord } from '../src/core/log';
import { statementsOf, type Statement } from '../src/core/says';

const ZONE = 120;
const said = (records: readonly LogRecord[], nowMs: number): Statement[] =>
  statementsOf(readBench(records), { nowMs, zone: ZONE, a4Hz: 440, priorsOf: () => ({}) });
/** What is wrong with all that is said at a moment. */
const faults = (all: readonly Statement[], hasShow: boolean): string[] => {
  const instruments = [...new Set(all.flatMap((s) => s.instrument ?? []))];
  return [
    ...instruments.flatMap((id) =>
      contradictions(
        all.filter((s) => s.instrument === id),
        hasShow,
      ),
    ),
    ...all.flatMap((s) => misquoted(s, ZONE, all)),
  ];
};

test.each([0.02, 3])('nothing that is said of the demonstration contradicts itself, %d h on', (hours) => {
  const { records } = JSON.parse(readFileSync('public/demonstration.json', 'utf8')) as { records: LogRecord[] };
  const all = said(records, Math.max(...records.map((r) => r.atMs)) + hours * HOUR);
  expect(all.length).toBeGreaterThan(200);
  expect(faults(all, true)).toEqual([]);
});

test.each([1, 2, 3, 4, 5, 6, 7, 8])('nothing that is said of a drawn log does: %d', (id) => {
  const world = drawAudited(11, id);
  const all = said(world.records, world.nowMs);
  expect(all.length).toBeGreaterThan(20);
  expect(faults(all, world.showMs !== undefined)).toEqual([]);
});

test('what contradicts, or quotes no figure of its own, is found', () => {
  const state: Statement = { kind: 'state', string: 's', value: 'holding', text: 'A4 holds.' };
  const holding: Statement = { kind: 'holding', value: 1, text: '1 of 1 strings hold.' };
  const hold: Statement = { kind: 'hold-chance', string: 's', chance: 0.6, text: 'A4: 60 %.' };
  expect(contradictions([state, holding, { ...hold, chance: 0.9 }], false)).toEqual([]);
  expect(contradictions([state, holding, hold], false)).toEqual(['A4 holds. A4: 60 %.']);
  expect(contradictions([state, { ...holding, value: 0 }], false)).toHaveLength(1);
  const now: Statement = {
    kind: 'offset-now',
    value: -4.23,
    interval: [-6.2, -2.2],
    text: 'A4: about −4.2 ±2.0 cents.',
  };
  expect(misquoted(now, 0)).toEqual([]);
  expect(misquoted({ ...now, text: 'A4: about −4.4 ±2.0 cents.' }, 0)).toHaveLength(1);
});
