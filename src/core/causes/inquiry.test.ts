import { readBench, type LogRecord } from '../log';
import { typedReading } from '../../../testing/typed';
import { beforeInquiry, causeBuildOf, evidenceOf, inquiryUnderWay, questionOf, triedIn } from './index';
import { DAY, HOUR, MINUTE } from '../base';

const NOW = Date.UTC(2026, 5, 20, 12);
let count = 0;
const base = (atMs: number) => ({ id: `r${++count}`, version: 2 as const, atMs, zoneMin: 0, instrumentId: 'x' });
const notes = ['E4', 'B3', 'G3'];
const instrument = (family = 'electric-floating', build = {}): LogRecord => ({
  ...base(NOW - 300 * DAY),
  type: 'instrument',
  name: 'X',
  family,
  ...build,
  strings: notes.map((note, i) => ({
    stringId: `s${i + 1}`,
    note,
    lengthMm: 648,
    material: 'plain-steel',
    gaugeMm: 0.3,
  })),
});
const reading = (
  stringId: string,
  purpose: 'as-found' | 'as-left',
  cents: number,
  atMs: number,
  more = {},
): LogRecord => ({
  ...base(atMs),
  ...typedReading(cents, more),
  stringId,
  purpose,
});
const look = (records: LogRecord[]) => {
  const bench = readBench(records);
  const life = bench.instruments[0]!;
  return beforeInquiry(life, life.strings[0]!, bench, NOW);
};

test('a friction measured today is evidence of two tests; not before the slot was lubricated, nor of another string', () => {
  const measured = (stringId: string, atMs: number): LogRecord => ({
    ...base(atMs),
    type: 'test',
    stringId,
    passId: `friction:${stringId}`,
    test: 'friction',
    firstCents: -5,
    secondCents: 7,
    sigmaCents: 0.3,
  });
  const oiled: LogRecord = { ...base(NOW - 3000), type: 'treatment', stringIds: ['s1'], treatment: 'lubricated' };
  const { friction, says } = look([instrument(), measured('s1', NOW - 9000), measured('s2', NOW - 5000)]);
  expect(friction).toEqual([
    { test: 'big-bend', first: -5 },
    { test: 'press-behind-nut', first: 12 },
  ]);
  expect(says.join(' ')).toContain('a press behind the nut back +12.0');
  expect(look([instrument(), measured('s1', NOW - 9000), oiled]).friction).toEqual([]);
  expect(look([instrument(), measured('s1', NOW - 4 * DAY)]).friction).toEqual([]);
});

test('the log is read before anything is asked', () => {
  const hour = NOW - HOUR;
  const all = notes.flatMap((_, i) => [
    reading(`s${i + 1}`, 'as-left', 0, hour, { tempC: 18, arrival: i === 0 ? 'from above' : 'from below' }),
    reading(`s${i + 1}`, 'as-found', [-9, 0.5, 1.5][i]!, NOW - MINUTE, {
      tempC: 21,
      ...(i === 0 ? { slip: true } : {}),
    }),
  ]);
  const strung: LogRecord = { ...base(NOW - 2 * DAY), type: 'fitted', stringId: 's1' };
  const { since, told, fromAbove, says } = look([instrument(), strung, ...all]);
  expect(since).toMatchObject({ own: -9, others: 1 });
  expect(told).toMatchObject({ after: 'strung', warmerC: 3 });
  expect(told.creepCents).toBeGreaterThan(0);
  expect(told.creepCents).toBeLessThan(0.2);
  expect(fromAbove).toBe(true);
  expect(says.join(' ')).toMatch(
    /−9\.0 cents, the others \+1\.0 .*suddenly once.*3 °C warmer.*from above.*Strung 2 days ago/s,
  );
});

test('where nobody looked since, that is said and asked', () => {
  const { since, told, says } = look([instrument(), reading('s1', 'as-left', 0, NOW - DAY)]);
  expect(since).toBeUndefined();
  expect(told.after).toBeUndefined();
  expect(says[0]).toContain('It has not been read since it was tuned');
});

test('recent work is known; how it is built decides what can be', () => {
  const moved: LogRecord = { ...base(NOW - DAY), type: 'adjustment', stringIds: ['s1'], what: 'saddle', moveMm: 1 };
  expect(look([instrument(), moved]).told.after).toBe('worked-on');
  const built = (record: LogRecord) => causeBuildOf(readBench([record]).instruments[0]!);
  expect(built(instrument())).toEqual({ bridge: 'floating', nut: 'plain', tree: true, tuners: 'geared', frets: true });
  const build = {
    build: { tuner: 'geared', fineTuners: false, frets: true, bowed: false, holds: 'springs', locking: true },
  };
  expect(built(instrument('electric-floating', build))).toMatchObject({ nut: 'locking', tree: false });
  expect(built(instrument('viola'))).toMatchObject({ bridge: 'tailpiece', tuners: 'friction', frets: false });
});

test('a test done again counts as it was done last; an inquiry goes on after a remedy in vain, and ends with one that helped', () => {
  const done = (firstCents: number, atMs: number): LogRecord => ({
    ...base(atMs),
    type: 'test',
    stringId: 's1',
    passId: 'p',
    test: 'big-bend',
    firstCents,
    secondCents: null,
    sigmaCents: 0.3,
  });
  const finding = (outcome: 'did-not' | 'helped'): LogRecord => ({
    ...base(NOW - MINUTE),
    type: 'finding',
    stringId: 's1',
    passId: 'p',
    causes: [{ cause: 'nut-friction', probability: 0.9 }],
    outcome,
  });
  const at = (...more: LogRecord[]) => {
    const records = [instrument(), done(-15, NOW - 3 * MINUTE), done(-4, NOW - 2 * MINUTE), ...more];
    const bench = readBench(records);
    const life = bench.instruments[0]!;
    const [string] = life.strings;
    const under = inquiryUnderWay(life, bench, NOW);
    const question = questionOf(
      life,
      causeBuildOf(life),
      string!,
      beforeInquiry(life, string!, bench, NOW),
      evidenceOf(bench, 'p', 's1'),
      { tried: triedIn(bench, 'p') },
      new Set(),
      440,
      NOW,
    );
    return { under: under?.passId, question };
  };
  expect(at().question.evidence).toEqual([{ test: 'big-bend', first: -4 }]);
  expect(at().question.again).toEqual(['big-bend']);
  const inVain = at(finding('did-not'));
  expect([inVain.under, inVain.question.told!.tried]).toEqual(['p', ['nut-friction']]);
  const helped = at(finding('helped'));
  expect([helped.under, helped.question.told!.tried]).toEqual([undefined, []]);
});
