import { readBench, type LogRecord } from '../log';
import { typedReading } from '../../../testing/typed';
import { STATEMENT_KINDS, statementsOf, type Statement } from '.';
import { MINUTE } from '../base';

const NOON = Date.UTC(2026, 5, 12, 10);
let count = 0;
const base = (minute: number) => ({
  id: `r${count++}`,
  version: 2 as const,
  atMs: NOON + minute * MINUTE,
  zoneMin: 120,
  instrumentId: 'x',
});
const NOTES = ['E4', 'B3', 'G3', 'D3'];
const strung = (minute = 0): LogRecord[] => [
  {
    ...base(minute - 1),
    type: 'instrument',
    name: 'Requinto',
    family: 'guitar-nylon',
    strings: NOTES.map((note, i) => ({
      stringId: `s${i}`,
      note,
      lengthMm: 650,
      material: 'plain-nylon' as const,
      gaugeMm: 0.7,
    })),
  },
  ...NOTES.map((_, i): LogRecord => ({ ...base(minute), type: 'fitted', stringId: `s${i}` })),
];
const read = (
  minute: number,
  string: number,
  cents: number,
  purpose: 'as-found' | 'as-left' = 'as-found',
  more: object = {},
): LogRecord => ({
  ...base(minute),
  ...typedReading(cents, more),
  stringId: `s${string}`,
  purpose,
});
/** Each string read at these minutes, falling, and brought up. */
const walks = (minutes: number[], falls = 8): LogRecord[] =>
  minutes.flatMap((m, k) =>
    NOTES.flatMap((_, i) => [
      ...(k === 0 ? [] : [read(m + i * 0.1, i, -falls / k)]),
      read(m + 2 + i * 0.1, i, 0, 'as-left'),
    ]),
  );
const said = (records: LogRecord[], minute: number): Statement[] =>
  statementsOf(readBench(records), { nowMs: NOON + minute * MINUTE, zone: 120, a4Hz: 440, priorsOf: () => ({}) });
const of = (all: Statement[], kind: Statement['kind'], string?: string) =>
  all.filter((s) => s.kind === kind && (string === undefined || s.string === string));
const next = (records: LogRecord[], minute: number) => of(said(records, minute), 'next-thing')[0]!.text;

test('an unread string has a state and no figure', () => {
  const all = said(strung(), 5);
  expect(of(all, 'state', 's0')[0]).toMatchObject({ instrument: 'x', value: 'unread', text: 'E4 is not read.' });
  expect(of(all, 'offset-now')).toEqual([]);
  expect(of(all, 'fallen')).toEqual([]);
});

test('every figure of a settling string has its moment, its doubt and its sentence', () => {
  const { instrumentId: _, ...about } = base(0);
  const show: LogRecord = { ...about, type: 'curtain', curtainMs: NOON + 300 * MINUTE };
  const all = said([...strung(), show, ...walks([1, 10, 30, 70])], 75);
  for (const { kind, interval, value, text } of all) {
    expect(STATEMENT_KINDS).toContain(kind);
    expect(text).toMatch(/^[A-Z\d].*\.$|^(Check|Tune|Last)/);
    if (interval) expect(interval[0]).toBeLessThanOrEqual(Number(value));
    if (interval) expect(interval[1]).toBeGreaterThanOrEqual(Number(value));
  }
  expect(of(all, 'offset-at', 's0').map((s) => (s.atMs! - NOON) / MINUTE)).toEqual([135, 300]);
  const [now, hour, then] = [of(all, 'offset-now', 's0')[0]!, ...of(all, 'offset-at', 's0')].map((s) =>
    Number(s!.value),
  );
  expect(now).toBeGreaterThan(hour!);
  expect(hour).toBeGreaterThan(then!);
  // Three bring-ups of 8, 4 and 2.7 cents, and what it fell each time before the hand.
  expect(of(all, 'fallen', 's0')[0]!.value).toBeGreaterThan(14.7);
  expect(of(all, 'fallen', 's0')[0]!.value).toBeLessThan(16.5);
  expect(of(all, 'hold-chance', 's0')[0]!.chance).toBeLessThan(0.85);
});

test('what all strings did at once is no fall: it is said, and the forecast goes on from there', () => {
  const log = [
    ...strung(-9000),
    ...walks([-8998, -8900, -8000, -6000, -3000]),
    ...NOTES.map((_, i) => read(i, i, 8 + 0.2 * i)),
  ];
  const all = said(log, 10);
  const [common] = of(all, 'common-offset');
  expect(common!.text).toMatch(
    /^All strings of Requinto are about 9\.\d cents sharper than expected, as if tuned to A4 = 442\.\d Hz\.$/,
  );
  expect(of(all, 'reference-suspect')[0]!.value).toBeCloseTo(442.4, 0);
  for (const s of of(all, 'offset-now')) expect(Number(s.value)).toBeGreaterThan(6);
});

describe('a figure that nobody expected', () => {
  const settled = [...strung(-9000), ...walks([-8998, -8900, -8000, -6000, -3000, -60], 3)];
  const now = (records: LogRecord[], minute: number) => of(said(records, minute), 'offset-now', 's0')[0]!;

  test('typed, it may be a move or a slip of the pen: both are within the interval, and it is to be read once more', () => {
    const once = now([...settled, read(-19, 0, -18.1)], -18);
    expect(Number(once.value)).toBeLessThan(-16);
    expect(once.interval![0]).toBeLessThan(-18.1);
    expect(once.interval![1]).toBeGreaterThan(-3);
    expect(once.text).toMatch(/^E4: about −1[78] cents now, or up to .* if that was read wrong\. Read it once more\.$/);
  });

  test('a second one that agrees settles it; one at the old place tells that the first was wrong', () => {
    const twice = now([...settled, read(-19, 0, -18.1), read(-18, 0, -18.2)], -17);
    expect(Number(twice.value)).toBeCloseTo(-18.2, 0);
    expect(twice.interval![1] - twice.interval![0]).toBeLessThan(5);
    const back = now([...settled, read(-19, 0, -18.1), read(-18, 0, -1.1)], -17);
    expect(Number(back.value)).toBeGreaterThan(-2.5);
    expect(back.interval![0]).toBeGreaterThan(-5);
  });

  test('heard and identified it is where the string stands, and a second pluck is asked for', () => {
    const heard = now([...settled, read(-19, 0, -18.1, 'as-found', { source: 'microphone' })], -18);
    expect(Number(heard.value)).toBeCloseTo(-18.1, 0);
    expect(heard.interval![1]).toBeLessThan(-15);
    // Hundreds of cents off it is the figure that is wrong.
    const far = now([...settled, read(-19, 0, -418, 'as-found', { source: 'microphone' })], -18);
    expect(Number(far.value)).toBeGreaterThan(-5);
  });

  test('all strings at once were tuned by somebody: said at once, nothing is thrown away, nothing is tuned back unasked', () => {
    const tuned = [...settled, ...[8, 19, 12, 15].map((cents, i) => read(-20 + i * 0.2, i, cents))];
    const all = said(tuned, -18);
    expect(of(all, 'common-offset')[0]!.text).toMatch(
      /^The strings of Requinto are \d+ to \d+ cents sharper than expected\. Did somebody tune them/,
    );
    expect(of(all, 'offset-now').map((s) => Math.round(Number(s.value)))).toEqual([8, 19, 12, 15]);
    for (const s of of(all, 'state')) expect(s.value).not.toBe('holding');
    expect(of(all, 'next-thing')[0]!.text).toBe('All strings moved: were they tuned elsewhere?');
  });
});

test('what somebody tuned sharp by a little, all strings at once, is no part of what they have fallen', () => {
  const settled = [...strung(-9000), ...walks([-8998, -8900, -8000, -6000, -3000, -60], 3)];
  const fallen = (records: LogRecord[]) => of(said(records, 5), 'fallen').map((s) => Number(s.value));
  const before = fallen(settled);
  const tuned = [...settled, ...[4.6, 5, 4.7, 5.2].map((cents, i) => read(i * 0.2, i, cents))];
  fallen(tuned).forEach((f, i) => expect(Math.abs(f - before[i]!)).toBeLessThan(2));
});

test('hours after it was read, a string may stand where the room has put it', () => {
  const settled = [...strung(-9000), ...walks([-8998, -8900, -8000, -6000, -3000, -60], 3)];
  const width = (minute: number) => {
    const [low, high] = of(said(settled, minute), 'offset-now', 's0')[0]!.interval!;
    return high - low;
  };
  expect(width(180)).toBeGreaterThan(1.3 * width(-57));
  expect(width(600)).toBeGreaterThan(width(180));
});

test('the next thing follows from the log', () => {
  expect(next(strung(), 5)).toBe('Check all strings once');
  const settled = [...strung(), ...walks([1, 10, 30, 70])];
  expect(next(settled, 76)).toMatch(/^Check (now|at \d\d:\d\d)$/);
  expect(next([...settled, read(74, 1, -12, 'as-found', { slip: true })], 76)).toBe('B3 slipped: find out why');
  expect(next([...settled, read(74, 1, -9)], 76)).toBe('Tune B3');
  const pass: LogRecord = {
    ...base(75),
    type: 'pass',
    kind: 'check',
    passId: 'p',
    startedMs: NOON + 75 * MINUTE,
    skipped: [],
    over: false,
  };
  expect(next([...settled, pass], 76)).toBe('Go on with the check');
  const off: LogRecord = { ...base(75), type: 'removed', stringId: 's2', reason: 'broke' };
  expect(next([...settled, off], 76)).toBe('Put on G3');
  const pulled = [0, 1].map((i): LogRecord => ({
    ...base(60 + i),
    type: 'round',
    stringId: 's0',
    dropCents: 9 - i,
    school: 'pull',
  }));
  expect(next([...strung(), ...walks([1, 10]), ...pulled], 63)).toBe('Stretch E4 once more');
});

test('a set that has been checked three times is offered the octave, once', () => {
  const calm = [...strung(-14000), ...walks([-13990, -13000, -9000, -4000, -10], 0.4)];
  expect(next(calm, 0)).toBe('Check the intonation on these new strings');
  const touches = (['open', 'fret'] as const).map((touch, k): LogRecord => ({
    ...base(-5 + k),
    type: 'touch',
    stringId: 's0',
    passId: 'o',
    touch,
    ...(touch === 'fret' ? { fret: 12 } : {}),
    source: 'typed',
    frequencyHz: touch === 'fret' ? 660 : 330,
    sigmaCents: 0.2,
    scatterCents: 0.2,
  }));
  expect(next([...calm, ...touches], 0)).toMatch(/^Check/);
  expect(next([...calm, ...touches], 0)).not.toMatch(/intonation/);
});

test('before a show its plan says when; what stands out now comes first', () => {
  const show: LogRecord = { ...base(0), type: 'curtain', curtainMs: NOON + 900 * MINUTE };
  const settled = [...strung(), show, ...walks([1, 10, 30, 70])];
  expect(next(settled, 74)).not.toMatch(/^Tune/);
  expect(next([...settled, read(74, 1, -9)], 76)).toBe('Tune B3');
  // Hours on they have surely gone out, though nobody has read it.
  expect(next(settled, 700)).toMatch(/^Tune|now$/);
});

test('a string whose last figure stands outside is not said to hold, however much it surprised', () => {
  const old = [...strung(-90_000), ...[0, 60, 120, 180, 240].flatMap((m) => NOTES.map((_, i) => read(m, i, 0.1)))];
  const at = (records: LogRecord[]) => {
    const all = said(records, 242);
    return [of(all, 'state', 's0')[0]!.value, of(all, 'hold-chance', 's0')[0]!.chance!] as const;
  };
  const [state, chance] = at(old);
  expect([state, chance > 0.85]).toEqual(['holding', true]);
  const [after, less] = at([...old, read(241, 0, -9)]);
  expect(after).not.toBe('holding');
  expect(less).toBeLessThanOrEqual(0.5);
});

describe('where strings stand by checkpoints', () => {
  const sound = (string: number, against: number, cents: number): LogRecord => ({
    ...base(100),
    type: 'checkpoint',
    stringId: `s${string}`,
    againstId: `s${against}`,
    anchorId: 's0',
    passId: 'net',
    interval: [4, 3],
    expectCents: 0,
    cents,
    sigmaCents: 0.3,
    beatsHz: 1,
  });
  const net = [...strung(-90_000), ...NOTES.map((_, i) => read(10, i, 0)), sound(1, 0, 5), sound(2, 0, 0.4)];
  const told = (minute: number) => of(said(net, minute), 'net-offset').map((s) => s.text);

  test('is said of those that a checkpoint ties, and in the past tense when it is past', () => {
    expect(told(105)).toEqual(['B3 is 5.0 cents sharp against E4.', 'G3 agrees with E4: +0.4 cents.']);
    expect(told(111)).toEqual([
      'B3 was 5.0 cents sharp against E4 at 13:40.',
      'G3 agreed with E4 at 13:40: +0.4 cents.',
    ]);
    expect(told(281)).toEqual([]);
  });
});
