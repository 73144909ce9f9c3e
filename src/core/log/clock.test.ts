/** A device's clock that is set back, and forward again: the log keeps its order and its ages. */
import { isOfPass } from '../check';
import { passUnderWay } from '../guided';
import { chapterOf, checkRecord, createLogIndex, readBench, RECORD_VERSION, type LogRecord } from '.';
import { MINUTE, HOUR } from '../base';
import { instrumentStatus } from '../status';

const NOON = 1_780_000_000_000;

/** Writes records as a device does whose clock says what it is told, one after another. */
function device(by = 'here') {
  let seq = 0;
  const records: LogRecord[] = [];
  const write = (clockMs: number, fields: object, atMs = clockMs) => {
    seq++;
    const written = { by, seq, atMs: clockMs };
    records.push({ id: `${by}${seq}`, version: RECORD_VERSION, zoneMin: 0, atMs, written, ...fields } as LogRecord);
  };
  return {
    records,
    instrument: (clockMs: number) =>
      write(clockMs, {
        type: 'instrument',
        instrumentId: 'x',
        name: 'X',
        family: 'own',
        strings: [{ stringId: 's', note: 'A4', lengthMm: 540, material: 'plain-nylon', gaugeMm: 0.7 }],
      }),
    fitted: (clockMs: number, atMs?: number) =>
      write(clockMs, { type: 'fitted', instrumentId: 'x', stringId: 's' }, atMs),
    room: (clockMs: number, tempC: number) => write(clockMs, { type: 'room', tempC }),
    reading: (clockMs: number, cents: number, more: object = {}) =>
      write(clockMs, {
        type: 'reading',
        instrumentId: 'x',
        stringId: 's',
        purpose: 'as-found',
        source: 'typed',
        frequencyHz: 440,
        cents,
        sigmaCents: 1,
        targetHz: 440,
        a4Hz: 440,
        partials: [],
        ...more,
      }),
  };
}
const stringOf = (records: readonly LogRecord[]) => readBench(records).instruments[0]!.strings[0]!;
const agesMin = (records: readonly LogRecord[]) => {
  const { strungMs, readings } = stringOf(records);
  return readings.map((r) => Math.round((r.atMs - strungMs!) / MINUTE));
};

test('the clock is set back by an hour: readings after it are of the string that is on, and their ages run on', () => {
  const d = device();
  d.instrument(NOON);
  d.fitted(NOON);
  d.reading(NOON + 10 * MINUTE, -10);
  d.reading(NOON - 50 * MINUTE, -11);
  d.reading(NOON - 30 * MINUTE, -14);
  expect(agesMin(d.records)).toEqual([10, 10, 30]);
  const nowMs = NOON - 30 * MINUTE;
  const [status] = instrumentStatus(readBench(d.records).instruments[0]!, {
    nowMs,
    toleranceCents: 3,
    holdMin: 90,
    curtainMs: null,
    confidence: 0.9,
  });
  expect(status!.state).toBe('settling');
  expect(status!.cents).toBe(-14);
  expect(status!.nextCheckMs! - nowMs).toBeLessThan(HOUR);
  expect(readBench(d.records).clockBack).toEqual({ atMs: NOON - 50 * MINUTE, byMs: HOUR });
});

test('a clock that ran a day ahead when the string was fitted is the same case', () => {
  const d = device();
  d.instrument(NOON + 24 * HOUR);
  d.fitted(NOON + 24 * HOUR);
  for (let k = 1; k <= 20; k++) d.reading(NOON + k * HOUR, -k);
  expect(agesMin(d.records)).toEqual(Array.from({ length: 20 }, (_, k) => 60 * k));
});

test('what counts by being newest is the newest written: room, reference, an edited instrument', () => {
  const d = device();
  d.instrument(NOON);
  d.room(NOON + 5 * MINUTE, 18);
  d.room(NOON - 40 * MINUTE, 21);
  expect(readBench(d.records).room?.tempC).toBe(21);
});

test('a clock that was set back by mistake and forward again leaves the times before and after as they are', () => {
  const d = device();
  d.instrument(NOON);
  d.fitted(NOON);
  d.reading(NOON + 10 * MINUTE, -10);
  d.reading(NOON - 10 * HOUR, -11);
  d.reading(NOON - 10 * HOUR + 10 * MINUTE, -12);
  d.reading(NOON + 40 * MINUTE, -15);
  expect(agesMin(d.records)).toEqual([10, 10, 20, 40]);
  expect(readBench(d.records).clockBack).toBeUndefined();
});

test('a pass is counted by its records, whatever their times', () => {
  const d = device();
  d.instrument(NOON);
  d.fitted(NOON - HOUR);
  const pass = { startedMs: NOON, passId: 'p', skipped: [] };
  d.reading(NOON + MINUTE, -1, { passId: 'before' });
  d.reading(NOON - 3 * HOUR, -1, { passId: 'p' });
  expect(stringOf(d.records).readings.map((r) => isOfPass(r, pass))).toEqual([false, true]);
  const record = { ...pass, id: 'q', type: 'pass', kind: 'check', instrumentId: 'x', over: false } as const;
  const logged = { ...record, version: RECORD_VERSION, zoneMin: 0, atMs: NOON } as const;
  expect(passUnderWay([logged], 'check', 'x', NOON - 3 * HOUR)).toBe(logged);
});

test('two devices do not set one another’s clocks; a time given by hand is no clock set back', () => {
  const here = device('here');
  const there = device('there');
  here.instrument(NOON);
  here.fitted(NOON + MINUTE, NOON - 72 * HOUR);
  here.reading(NOON + 2 * MINUTE, -5);
  there.room(NOON - 5 * HOUR, 18);
  there.room(NOON - 4 * HOUR, 19);
  const all = [...here.records, ...there.records];
  expect(agesMin(all)).toEqual([72 * 60 + 2]);
  expect(readBench(all).clockBack).toBeUndefined();
});

test('record by record, in slices and in any order the index tells the same bench', () => {
  const d = device();
  d.instrument(NOON);
  d.fitted(NOON);
  for (let k = 1; k < 8; k++) d.reading(NOON + k * 10 * MINUTE, -k);
  d.reading(NOON - HOUR, -9);
  d.records.push({ ...d.records[3]!, id: 'back', type: 'taken-back', supersedes: d.records[3]!.id } as LogRecord);
  const whole = readBench(d.records);
  const orders = [d.records, [...d.records].reverse(), [...d.records.slice(5), ...d.records.slice(0, 5)]];
  for (const order of orders) {
    const index = createLogIndex();
    for (const r of order) {
      index.add([r]);
      index.bench();
    }
    expect(index.add(order)).toEqual({ records: [], chapters: [] });
    expect(index.bench().instruments).toEqual(whole.instruments);
    expect(index.bench().clockBack).toEqual(whole.clockBack);
  }
});

test('a clock that was set back is found among readings that are packed, with what was written beside them', async () => {
  const d = device();
  d.instrument(NOON);
  d.fitted(NOON);
  for (let k = 1; k < 5; k++) d.reading(NOON + k * 10 * MINUTE, -k);
  d.reading(NOON - HOUR, -9);
  d.room(NOON - HOUR + MINUTE, 20);
  d.reading(NOON - HOUR + 2 * MINUTE, -9);
  const readings = d.records.filter((r) => r.type === 'reading');
  const index = createLogIndex();
  index.add(
    d.records.filter((r) => r.type !== 'reading'),
    [await chapterOf(readings.slice(0, 5)), await chapterOf(readings.slice(5))],
  );
  expect(index.bench().instruments).toEqual(readBench(d.records).instruments);
  expect(index.bench().clockBack).toEqual(readBench(d.records).clockBack);
  expect(index.nextSeq()).toBe(d.records.length + 1);
});

test('an instrument that nothing was said of keeps its identity, so that its fits are kept', () => {
  const d = device();
  d.instrument(NOON);
  d.fitted(NOON);
  const index = createLogIndex();
  index.add(d.records);
  const before = index.bench().instruments[0];
  d.room(NOON + MINUTE, 20);
  index.add(d.records);
  expect(index.bench().instruments[0]).toBe(before);
  d.reading(NOON + 2 * MINUTE, -3);
  index.add(d.records);
  expect(index.bench().instruments[0]).not.toBe(before);
});

test('a place in the order of writing that leaves no room is let go, and the log can be written on', () => {
  const full = { by: 'x', seq: Number.MAX_SAFE_INTEGER, atMs: 5 };
  const curtain = {
    id: 'c',
    version: RECORD_VERSION,
    zoneMin: 0,
    atMs: 5,
    type: 'reference',
    a4Hz: 441,
    written: full,
  };
  const checked = checkRecord(curtain);
  expect(checked).toMatchObject({ ok: true, record: { a4Hz: 441 } });
  const index = createLogIndex();
  index.add(checked.ok ? [checked.record] : []);
  expect(index.nextSeq()).toBe(1);
  expect(index.bench().reference?.a4Hz).toBe(441);
});
