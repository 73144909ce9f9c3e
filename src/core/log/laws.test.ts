/** What must hold of every log, however it came about. */
import fc from 'fast-check';
import {
  chapterOf,
  checkRecord,
  createLogIndex,
  headingOf,
  readBench,
  standing,
  type Heading,
  type LogRecord,
  type ReadingRecord,
} from '.';
import { MINUTE } from '../base';
import { instrumentStatus, nextChecks, totalFallSeries } from '../status';

const START = 1_780_000_000_000;
const base = { version: 2 as const, zoneMin: 0, atMs: START };
const instrument: LogRecord = {
  ...base,
  id: 'i',
  type: 'instrument',
  instrumentId: 'x',
  name: 'X',
  family: 'own',
  strings: ['A4', 'D4', 'G3'].map((note, k) => ({
    stringId: `s${k}`,
    note,
    lengthMm: 650,
    material: 'plain-nylon' as const,
    gaugeMm: 0.7,
  })),
};
const reading = (k: number, minute: number, cents: number, left: boolean): ReadingRecord => ({
  ...base,
  id: `r${k}-${minute}-${left ? 'l' : 'f'}`,
  atMs: START + Math.round(minute * MINUTE),
  type: 'reading',
  instrumentId: 'x',
  stringId: `s${k}`,
  purpose: left ? 'as-left' : 'as-found',
  source: 'typed',
  frequencyHz: 440,
  cents,
  sigmaCents: 0.3,
  targetHz: 440,
  a4Hz: 440,
  partials: [],
});

/** A log: strings fitted, read and brought up at any times, some readings superseded or taken back. */
const log = fc
  .array(
    fc.record({
      k: fc.integer({ min: 0, max: 2 }),
      minute: fc.integer({ min: 1, max: 3000 }),
      cents: fc.double({ min: -60, max: 20, noNaN: true }),
      left: fc.boolean(),
      fate: fc.constantFrom('stands', 'stands', 'stands', 'corrected', 'taken back'),
    }),
    { minLength: 1, maxLength: 40 },
  )
  .map((list): LogRecord[] => {
    const unique = new Map(list.map((e) => [`${e.k}/${e.minute}/${e.left}`, e]));
    return [
      instrument,
      { ...base, id: 'f0', type: 'fitted', instrumentId: 'x', stringId: 's0' },
      ...[...unique.values()].flatMap(({ k, minute, cents, left, fate }): LogRecord[] => {
        const r = reading(k, minute, cents, left);
        if (fate === 'corrected') return [r, { ...r, id: `${r.id}-c`, cents: cents / 2, supersedes: r.id }];
        if (fate === 'taken back')
          return [r, { ...base, id: `${r.id}-t`, atMs: r.atMs, type: 'taken-back', supersedes: r.id }];
        return [r];
      }),
    ];
  });

test('in whatever order records come from the store, the bench is the same', () => {
  fc.assert(
    fc.property(log, fc.integer(), (records, seed) => {
      const shuffled = records
        .map((r, i) => [r, Math.sin(seed + i * 12.9898)] as const)
        .sort((a, b) => a[1] - b[1])
        .map(([r]) => r);
      expect(readBench(shuffled)).toEqual(readBench(records));
    }),
  );
});

test('with readings in chapters, whatever came before or after them, a log says the same', async () => {
  await fc.assert(
    fc.asyncProperty(log, fc.nat(), async (given, cut) => {
      // As a file would give them: it knows no −0.
      const records = JSON.parse(JSON.stringify(given)) as LogRecord[];
      const readings = records.filter((r): r is ReadingRecord => r.type === 'reading' && !r.supersedes);
      const at = cut % readings.length;
      const groups = [readings.slice(0, at), readings.slice(at)].filter((g) => g.length > 0);
      const chapters = await Promise.all(groups.map(chapterOf));
      const loose = records.filter((r) => r.type !== 'reading' || r.supersedes);
      const ways = [
        [[loose, chapters]],
        [[records], [[], chapters]],
        [[[], chapters], [records]],
        [[loose, chapters.slice(1)], [readings], [[], chapters]],
      ] as const;
      for (const way of ways) {
        const index = createLogIndex();
        for (const [some, packed] of way) {
          index.add(some!, packed);
          index.bench();
        }
        expect(index.add(records, chapters)).toEqual({ records: [], chapters: [] });
        expect(index.bench().instruments).toEqual(readBench(records).instruments);
        expect(index.count()).toBe(records.length);
        expect(
          index
            .records()
            .map((r) => r.id)
            .sort(),
        ).toEqual(records.map((r) => r.id).sort());
        const byId = (a: Heading, b: Heading) => (a.id < b.id ? -1 : 1);
        expect([...index.headings()].flat().sort(byId)).toEqual(records.map(headingOf).sort(byId));
        for (const r of records) expect(index.get(r.id, 'x')).toEqual(r);
      }
    }),
    { numRuns: 60 },
  );
});

test('of many instruments the chapters of those that were wanted last stay unpacked, and every one says the same again', async () => {
  const index = createLogIndex();
  for (let k = 0; k < 60; k++) {
    const of = { instrumentId: `i${10 + k}` };
    const readings = [1, 2, 3].map((m) => ({ ...reading(0, m, -m - k, false), ...of, id: `r${k}-${m}` }));
    index.add([{ ...instrument, ...of, id: `i${10 + k}` } as LogRecord], [await chapterOf(readings)]);
  }
  const said = () => index.bench().instruments.map((i) => i.strings.map((s) => s.readings.map((r) => r.cents)));
  const [first, again] = [said(), said()];
  expect(first[59]![0]).toEqual([-60, -61, -62]);
  expect(again).toEqual(first);
});

test('what was superseded or taken back stands no longer; all else does', () => {
  fc.assert(
    fc.property(log, (records) => {
      const gone = new Set(records.flatMap((r) => (r.supersedes ? [r.supersedes] : [])));
      const live = standing(records);
      expect(live.some((r) => gone.has(r.id) || r.type === 'taken-back')).toBe(false);
      expect(live).toHaveLength(records.filter((r) => !gone.has(r.id) && r.type !== 'taken-back').length);
    }),
  );
});

test('total fall: what is left at pitch has fallen what it was brought up; a bring-up does not count as fall', () => {
  fc.assert(
    fc.property(fc.array(fc.double({ min: -40, max: -0.5, noNaN: true }), { minLength: 1, maxLength: 12 }), (drops) => {
      // Left at 0, found flat, left at 0 …
      const list = [
        reading(0, 0, 0, true),
        ...drops.flatMap((d, i) => [reading(0, 10 * i + 5, d, false), reading(0, 10 * i + 6, 0, true)]),
      ];
      const falls = totalFallSeries(list);
      const sum = drops.reduce((a, d) => a - d, 0);
      expect(falls[falls.length - 1]).toBeCloseTo(sum, 6);
      falls.forEach((f, i) => expect(f).toBeGreaterThanOrEqual((falls[i - 1] ?? 0) - 1e-9));
    }),
  );
});

test('whatever the log, every string has a state, chances are chances, and the next check comes after the last reading', () => {
  fc.assert(
    fc.property(log, fc.integer({ min: 0, max: 5000 }), (records, later) => {
      const life = readBench(records).instruments[0]!;
      const nowMs = START + (3000 + later) * MINUTE;
      const wish = {
        nowMs,
        toleranceCents: 3,
        holdMin: 90,
        curtainMs: nowMs + 100 * MINUTE,
        confidence: 0.9,
        lane: true,
      };
      const statuses = instrumentStatus(life, wish);
      expect(statuses.map((s) => s.stringId)).toEqual(['s0', 's1', 's2']);
      statuses.forEach((s, i) => {
        expect(s.state === 'unread').toBe(life.strings[i]!.readings.length === 0);
        if (s.chance !== null) {
          expect(s.chance).toBeGreaterThanOrEqual(0);
          expect(s.chance).toBeLessThanOrEqual(1);
        }
        if (s.nextCheckMs !== null) expect(s.nextCheckMs).toBeGreaterThanOrEqual(s.lastReadMs! + 2 * MINUTE - 1);
        for (const b of [...s.ahead, ...(s.atCurtain ? [s.atCurtain] : [])]) {
          expect(b.low).toBeLessThanOrEqual(b.cents + 1e-6);
          expect(b.high).toBeGreaterThanOrEqual(b.cents - 1e-6);
        }
      });
    }),
    { numRuns: 12 },
  );
});

test('a wider tolerance is checked no sooner', () => {
  const records: LogRecord[] = [
    instrument,
    { ...base, id: 'f0', type: 'fitted', instrumentId: 'x', stringId: 's0' },
    ...[2, 5, 12, 30, 70, 150].map((t) => reading(0, t, -9 * Math.log1p(t / 3), false)),
  ];
  const { strings } = readBench(records).instruments[0]!;
  const checkAt = (toleranceCents: number, confidence = 0.9) => nextChecks(strings, { toleranceCents, confidence })[0]!;
  // A small tolerance that it stands outside of is taken as brought to pitch; from 5 cents on the offset counts too.
  const after = [1, 2, 3].map((tol) => checkAt(tol));
  expect(after).toEqual([...after].sort((a, b) => a - b));
  expect(after[0]!).toBeLessThan(after[2]!);
  expect(checkAt(3, 0.97)).toBeLessThanOrEqual(after[2]!);
});

test('asked again without a new reading, the next check does not move; it becomes late', () => {
  const records: LogRecord[] = [
    instrument,
    { ...base, id: 'f0', type: 'fitted', instrumentId: 'x', stringId: 's0' },
    ...[2, 5, 12, 30].map((t) => reading(0, t, -0.4 * Math.log1p(t / 3), false)),
  ];
  const life = readBench(records).instruments[0]!;
  const asked = [31, 60, 300, 3000].map((min) => {
    const nowMs = START + min * MINUTE;
    const wish = { nowMs, toleranceCents: 3, holdMin: 90, curtainMs: null, confidence: 0.9, lane: true };
    return instrumentStatus(life, wish)[0]!;
  });
  expect(new Set(asked.map((s) => s.nextCheckMs)).size).toBe(1);
  expect(asked[3]!.nextCheckMs!).toBeLessThan(START + 3000 * MINUTE);
  // What it is likely to have become is told with its doubt, and the doubt grows.
  expect(asked[3]!.byNow!.sigmaCents).toBeGreaterThan(asked[0]!.byNow!.sigmaCents);
});

test('whatever is given for a record, it is none unless it names a type, an id and a moment', () => {
  fc.assert(
    fc.property(fc.jsonValue(), (value) => {
      const checked = checkRecord(value);
      expect(checked.ok).toBe(false);
      expect(!checked.ok && checked.message.length).toBeGreaterThan(5);
    }),
  );
});
