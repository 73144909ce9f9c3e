import 'fake-indexeddb/auto';
import { readLogFile, writeLogFile } from '../src/core/exchange';
import {
  checkRecord,
  indexOf,
  RECORD_KINDS,
  migrate,
  namesIn,
  RECORD_VERSION,
  sayRecord,
  type LogRecord,
} from '../src/core/log';
import { ALL_SAMPLES, OLDER_SAMPLES, SAMPLES } from './samples';
import { openStore } from '../src/app/store/database';

const byType = ALL_SAMPLES.map((r): [string, LogRecord] => [r.type, r]);

test.each(byType)('%s: a valid one is taken, and stays what it is when it is read from an older store', (_, record) => {
  expect(checkRecord(record)).toEqual({ ok: true, record });
  expect(migrate(structuredClone(record))).toEqual(record);
});

test.each(OLDER_SAMPLES)('%s of version %i becomes the present one', (_type, _version, older, present) => {
  const checked = checkRecord(JSON.parse(JSON.stringify(older)));
  expect(checked).toEqual({ ok: true, record: { ...present, ...('partials' in present ? { partials: [] } : {}) } });
});

test('whatever its type, a record of any older version comes through every step to the present one', () => {
  for (let version = 1; version < RECORD_VERSION; version++)
    for (const r of ALL_SAMPLES) expect([r.type, checkRecord({ ...r, version }).ok]).toEqual([r.type, true]);
});

test('every type says something of itself by the names that the log knows', () => {
  const names = namesIn(ALL_SAMPLES);
  for (const r of ALL_SAMPLES) expect(sayRecord(r, names)).toMatch(/^[A-ZÀ-Ž].{5,}/);
  expect(sayRecord(SAMPLES.reading, names)).toMatch(/^Sample, E4: as left \+1.2 ±0.5 cents/);
});

test.each(byType)('%s: with a field of another kind it is refused, in words, never thrown', (_, record) => {
  for (const key of Object.keys(record)) {
    const checked = checkRecord({ ...record, [key]: { nested: true } });
    expect(`${key} ${checked.ok}`).toBe(`${key} false`);
    expect(!checked.ok && checked.message.length).toBeGreaterThan(5);
  }
});

test('all of them go out in a file and come in again the same', () => {
  const read = readLogFile(writeLogFile(ALL_SAMPLES, 1));
  expect(read).toMatchObject({ ok: true, records: ALL_SAMPLES });
});

test('all of them are kept by the store of a browser, and found again', async () => {
  const store = openStore('own');
  await store.append(ALL_SAMPLES);
  store.close();
  const again = openStore('own');
  expect(await again.all()).toEqual({ records: ALL_SAMPLES, chapters: [], damaged: [] });
  again.close();
});

test('all of them are understood by the index: none is set aside, and the bench knows the string taken off', () => {
  const { index, aside } = indexOf({ records: ALL_SAMPLES, chapters: [] });
  expect(aside).toEqual([]);
  const [life] = index.bench().instruments;
  expect(life?.strings.map((s) => s.readings.length)).toEqual([0, 0]);
  expect(index.bench()).toMatchObject({ room: { tempC: 19.5 }, reference: { a4Hz: 441.3 } });
});

const ODD = [undefined, null, '', 'x', 'x'.repeat(2000), '1', -1, 0, 0.5, 1e20, NaN, Infinity, true, [], [null], {}];
test('what is quickly taken for a good record is one: every field of every type, bent', () => {
  const wrong: string[] = [];
  RECORD_KINDS.forEach(({ type, schema, surely }, i) => {
    const good = ALL_SAMPLES[i]! as unknown as Record<string, unknown>;
    if (!surely(good)) wrong.push(`${type}: a good one is not known at once`);
    for (const key of [...Object.keys(schema.fields), 'stranger'])
      for (const value of ODD) {
        const bent = { ...good, [key]: value };
        if (surely(bent) && !schema.isValidSync(bent, { strict: true })) wrong.push(`${type}.${key}: ${String(value)}`);
      }
  });
  expect(wrong).toEqual([]);
});
