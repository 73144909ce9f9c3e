import { ALL_SAMPLES, SAMPLES } from '../../../testing/samples';
import { namesIn, searchLog, type LogRecord } from '.';

const names = namesIn(ALL_SAMPLES);
const found = (wanted: Parameters<typeof searchLog>[2]) => searchLog(ALL_SAMPLES, names, wanted).map((r) => r.type);

test('entries are found by kind, string, day and words, the newest first', () => {
  expect(found({})).toHaveLength(ALL_SAMPLES.length);
  expect(found({ type: 'reading' })).toEqual(['reading']);
  expect(found({ stringId: 's2' })).toContain('treatment');
  expect(found({ stringId: 's2' })).not.toContain('reading');
  expect(found({ text: 'GRAPHITE lubricated' })).toEqual(['treatment']);
  expect(found({ text: 'graphite broke' })).toEqual([]);
  expect(found({ instrumentId: 'x' })).not.toContain('room');
  expect(found({ to: '2026-06-11' })).toEqual([]);
  const times = searchLog(ALL_SAMPLES, names, {}).map((r) => r.atMs);
  expect(times).toEqual([...times].sort((a, b) => b - a));
});

test('what is taken back says what it was; one that takes back another such leads nowhere in a circle', () => {
  const back = { ...SAMPLES['taken-back'], supersedes: SAMPLES.reading.id } as LogRecord;
  expect(namesIn([...ALL_SAMPLES, back]).record(SAMPLES.reading.id)).toMatch(/as left \+1\.2/);
  const [a, b] = ['a', 'b'].map((id) => ({ ...SAMPLES['taken-back'], id, supersedes: id === 'a' ? 'b' : 'a' }));
  const circle = [...ALL_SAMPLES, a!, b!];
  expect(searchLog(circle, namesIn(circle), { text: 'taken back' }).length).toBeGreaterThan(1);
});
