import type { InstrumentLife, TouchRecord } from '../log';
import { answerTo, touchSteps } from './steps';

const life = (family: string) =>
  ({
    record: { family },
    strings: [{ plan: { stringId: 'a', note: 'E4' } }, { plan: { stringId: 'b', note: 'B3' } }],
  }) as unknown as InstrumentLife;
const kept = (touch: TouchRecord['touch'], fret?: number, passId = 'one', stringId = 'a') =>
  ({ touch, passId, stringId, ...(fret === undefined ? {} : { fret }) }) as TouchRecord;

test('each string open, frets, harmonic and open again; without frets no frets', () => {
  const steps = touchSteps(life('guitar-electric'), [1, 19]);
  expect(steps.slice(0, 6).map((s) => `${s.touch} ${s.fret ?? 0}`)).toEqual([
    'open 0',
    'fret 1',
    'fret 12',
    'fret 19',
    'harmonic 12',
    'open 0',
  ]);
  expect(new Set(steps.map((s) => s.key)).size).toBe(12);
  expect(touchSteps(life('kantele-11'), [1]).map((s) => s.touch)).not.toContain('fret');
});

test('which steps of a pass are done is read from the log', () => {
  const [open, fret1, fret12, harmonic, again] = touchSteps(life('guitar-electric'), [1]);
  const log = [kept('open'), kept('fret', 12), kept('open', undefined, 'two'), kept('open', undefined, 'one', 'b')];
  expect(answerTo(open!, log, 'one')).toBe(log[0]);
  expect(answerTo(fret1!, log, 'one')).toBeUndefined();
  expect(answerTo(fret12!, log, 'one')).toBe(log[1]);
  expect(answerTo(harmonic!, log, 'one')).toBeUndefined();
  // The open string heard once is not yet heard again.
  expect(answerTo(again!, log, 'one')).toBeUndefined();
  expect(answerTo(again!, [...log, kept('open')], 'one')).toBeDefined();
});
