import { ALL_SAMPLES, SAMPLES } from '../../../testing/samples';
import { isWanted, namesIn, type LogRecord, type Search } from '.';

const names = namesIn(ALL_SAMPLES);
const found = (wanted: Search) => ALL_SAMPLES.filter(isWanted(names, wanted)).map((r) => r.type);

test('entries are found by kind, string, day and words', () => {
  expect(found({})).toHaveLength(ALL_SAMPLES.length);
  expect(found({ type: 'reading' })).toEqual(['reading']);
  expect(found({ stringId: 's2' })).toContain('treatment');
  expect(found({ stringId: 's2' })).not.toContain('reading');
  expect(found({ text: 'GRAPHITE lubricated' })).toEqual(['treatment']);
  expect(found({ text: 'graphite broke' })).toEqual([]);
  expect(found({ instrumentId: 'x' })).not.toContain('room');
  expect(found({ to: '2026-06-11' })).toEqual([]);
});

test('what is taken back says what it was; one that takes back another such leads nowhere in a circle', () => {
  const back = { ...SAMPLES['taken-back'], supersedes: SAMPLES.reading.id } as LogRecord;
  expect(namesIn([...ALL_SAMPLES, back]).record(SAMPLES.reading.id)).toMatch(/as left \+1\.2/);
  const [a, b] = ['a', 'b'].map((id) => ({ ...SAMPLES['taken-back'], id, supersedes: id === 'a' ? 'b' : 'a' }));
  const circle = [...ALL_SAMPLES, a!, b!];
  expect(circle.filter(isWanted(namesIn(circle), { text: 'brought back: an entry that is not here' })).length).toBe(2);
});
