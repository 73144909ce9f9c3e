import fc from 'fast-check';
import { randomFrom } from '../simulate';
import { readBench, type Draft, type LogRecord } from '../log';
import { typedReading } from '../../../testing/typed';
import { foundAndLeft, lifeSheet, lastedOn, livesByMaterial, medianLife, setsOf, treatmentsOf, trialOf } from '.';
import { DAY, MINUTE } from '../base';

const NOW = Date.UTC(2026, 5, 20, 12);
let count = 0;
const at = (atMs: number) => ({ id: `r${++count}`, version: 2 as const, atMs, zoneMin: 60, instrumentId: 'x' });
const make = (atMs: number, draft: object) => ({ ...at(atMs), ...draft }) as LogRecord;
const instrument = make(NOW - 400 * DAY, {
  type: 'instrument',
  name: 'X',
  family: 'own',
  strings: ['A4', 'D4'].map((note, i) => ({
    stringId: `s${i + 1}`,
    note,
    lengthMm: 650,
    material: 'plain-steel',
    gaugeMm: 0.3,
  })),
} satisfies Partial<Draft>);
const strings = instrument.type === 'instrument' ? instrument.strings : [];
const put = (stringId: string, daysAgo: number) => make(NOW - daysAgo * DAY, { type: 'fitted', stringId });
const read = (stringId: string, minutesAgo: number, cents: number, purpose = 'as-found') =>
  make(NOW - minutesAgo * MINUTE, { ...typedReading(cents, { tempC: 19 }), stringId, purpose });

test('a life on one page: strings with their ends, as found and as left with doubt, and what a treatment did', () => {
  const records = [
    instrument,
    put('s1', 300),
    make(NOW - 100 * DAY, { type: 'removed', stringId: 's1', reason: 'broke', place: 'nut' }),
    put('s1', 99),
    ...[0, 1, 2, 3].map((k) => read('s1', 1500 - 20 * k, -3 * k)),
    make(NOW - 1430 * MINUTE, { type: 'treatment', stringIds: ['s1'], treatment: 'stretched' }),
    read('s1', 1400, -12),
    read('s1', 1300, -12.5),
    read('s1', 2, -13),
    read('s1', 1, 0.4, 'as-left'),
    read('s2', 1, -2),
  ];
  const bench = readBench(records);
  const [life] = bench.instruments;
  expect(setsOf(life!).map((s) => [s.stringId, s.reason, s.place, s.endedMs === null])).toEqual([
    ['s1', null, null, true],
    ['s1', 'broke', 'nut', false],
    ['s2', null, null, true],
  ]);
  expect(foundAndLeft(life!).map((s) => [s.found?.cents, s.left?.cents])).toEqual([
    [-13, 0.4],
    [-2, undefined],
  ]);
  const sheet = lifeSheet(life!, bench);
  expect(sheet.facts).toEqual(
    expect.arrayContaining([
      ['Reference', 'A4 = 440.0 Hz'],
      ['Room', '19.0 °C'],
      ['Date', '2026-06-20'],
    ]),
  );
  expect(sheet.rows[0]).toMatchObject({
    note: 'A4',
    found: expect.stringMatching(/^−13\.0 ±/),
    left: expect.stringMatching(/^\+0\.4 ±/),
  });
  expect(sheet.rows[1]!.left).toBe('left as found');
  const [treated] = treatmentsOf(life!, bench);
  expect(treated!.before).toBeCloseTo(9, 0);
  expect(treated!.after).toBeLessThan(1);
});

test('how long strings last: half of them by the count that still holds those that are on, open where too few came off', () => {
  expect(medianLife([10, 20, 30, 40].map((days) => ({ days, ended: true })))).toMatchObject({ days: 20 });
  // Strings that are still on are no deaths.
  expect(
    medianLife([{ days: 10, ended: true }, ...[20, 30, 40].map((days) => ({ days, ended: false }))]).days,
  ).toBeNull();
  const bench = readBench([
    instrument,
    put('s1', 300),
    make(NOW - 100 * DAY, { type: 'removed', stringId: 's1', reason: 'broke', place: 'nut' }),
    put('s2', 30),
  ]);
  expect(livesByMaterial(bench.instruments.flatMap((i) => lastedOn(i, NOW)))).toMatchObject([
    { material: 'plain-steel', ended: 1, on: 1, median: { days: 200 }, broke: { nut: 1 } },
  ]);
});

test('strings that were put on and came off together are one life; of few the interval is open', () => {
  const together = (k: number, days: number) =>
    ['s1', 's2'].flatMap((s) => [
      put(s, 800 - 100 * k),
      make(NOW - (800 - 100 * k - days) * DAY, { type: 'removed', stringId: s, reason: 'worn' }),
    ]);
  const lives = (sets: number[]) => {
    const bench = readBench([instrument, ...sets.flatMap((days, k) => together(k, days))]);
    return livesByMaterial(bench.instruments.flatMap((i) => lastedOn(i, NOW)))[0]!;
  };
  expect(lives([50])).toMatchObject({ ended: 2, median: { days: 50, lowDays: null, highDays: null } });
  expect(lives([40, 45, 50, 55, 60, 65])).toMatchObject({ ended: 12, median: { days: 50, lowDays: 40, highDays: 60 } });
});

test('the interval of the median life holds the true one in about nine of ten, with censored lives', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
      const random = randomFrom(seed);
      let holds = 0;
      for (let k = 0; k < 60; k++) {
        // Lives with a median of 100 days; a third are looked at before their end.
        const lives = Array.from({ length: 40 }, () => {
          const life = 100 * (-Math.log(random.uniform()) / Math.LN2) ** 0.6;
          const seen = 300 * random.uniform();
          return { days: Math.min(life, seen), ended: life <= seen };
        });
        const { lowDays, highDays } = medianLife(lives);
        if ((lowDays ?? 0) <= 100 && (highDays ?? Infinity) >= 100) holds++;
      }
      expect(holds / 60).toBeGreaterThan(0.78);
    }),
    { numRuns: 12, seed: 38 },
  );
});

test('a comparison counts what was read from the treatment on, and up to its end', () => {
  const treatedAgo = (minutes: number, endedAgo: number | null, treatment = 'stretched') => {
    const readings = ['s1', 's2'].flatMap((s) => [300, 200, 100, 50, 20].map((ago) => read(s, ago, -20 / ago)));
    const treated = make(NOW - minutes * MINUTE, { type: 'treatment', stringIds: ['s1'], treatment });
    const { strings } = readBench([instrument, put('s1', 1), put('s2', 1), ...readings, treated]).instruments[0]!;
    return trialOf([{ treated: strings[0]!, control: strings[1]! }], endedAgo === null ? null : NOW - endedAgo * MINUTE)
      ?.usable;
  };
  expect(treatedAgo(150, null)).toBe(1);
  expect(treatedAgo(100, null)).toBe(1);
  // Two are too few.
  expect(treatedAgo(99, null)).toBeUndefined();
  expect(treatedAgo(99, null, 'played')).toBe(1);
  expect(treatedAgo(250, 50)).toBe(1);
  expect(treatedAgo(250, 51)).toBeUndefined();
});

test('the sheet is one walk: all strings, with words where no figure is, and what was done and remarked about it', () => {
  const three = {
    ...instrument,
    strings: ['A4', 'D4', 'G3', 'C3'].map((note, i) => ({ ...strings[0]!, note, stringId: `s${i + 1}` })),
  };
  const pass = (passId: string, r: LogRecord) => ({ ...r, passId }) as LogRecord;
  const records: LogRecord[] = [
    three as LogRecord,
    ...['s1', 's2', 's3', 's4'].map((s) => put(s, 30)),
    make(NOW - 40 * MINUTE, { type: 'removed', stringId: 's4', reason: 'broke' }),
    // Another device half an hour ago is another walk.
    pass('other', read('s3', 30, -9)),
    pass('mine', read('s1', 12, -8)),
    pass('mine', read('s1', 11, 0.3, 'as-left')),
    pass('mine', read('s2', 10, 1)),
    make(NOW - 9 * MINUTE, { type: 'treatment', stringIds: ['s1', 's2'], treatment: 'lubricated', note: 'graphite' }),
    make(NOW - 8 * MINUTE, { type: 'remark', text: 'A crack at the tail.' }),
    make(NOW - 2 * DAY, { type: 'remark', text: 'Old.' }),
    make(NOW - 9 * DAY, { type: 'about', place: 'Locker 3', code: 'RQ-1' }),
  ];
  const bench = readBench(records);
  const sheet = lifeSheet(bench.instruments[0]!, bench);
  expect(sheet.rows.map((r) => [r.note, r.found.slice(0, 4), r.left.slice(0, 13)])).toEqual([
    ['A4', '−8.0', expect.stringMatching(/^\+0\.3 ±/)],
    ['D4', '+1.0', 'left as found'],
    ['G3', 'not ', 'not read'],
    ['C3', 'no s', 'no string'],
  ]);
  expect(sheet.facts).toEqual(
    expect.arrayContaining([
      ['Kept at', 'Locker 3'],
      ['Code', 'RQ-1'],
    ]),
  );
  expect(sheet.done).toEqual(['A4, D4: lubricated (graphite)']);
  expect(sheet.remarks).toEqual(['A crack at the tail.']);
  const far = readBench([...records, read('s2', 1, -9)]);
  expect(lifeSheet(far.instruments[0]!, far).rows[1]).toMatchObject({ left: 'not brought up' });
});

test('readings of no pass are one walk while no hour lies between them', () => {
  const walkOf = (...ago: number[]) => {
    const bench = readBench([instrument, ...ago.map((m) => read('s1', m, -m))]);
    return foundAndLeft(bench.instruments[0]!)[0]!.found!.cents;
  };
  expect(walkOf(130, 75, 20)).toBe(-130);
  expect(walkOf(130, 69, 20)).toBe(-69);
});
