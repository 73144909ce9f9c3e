import { breaksAt, checkRecord, readBench, standing, type LogRecord, type ReadingRecord, type StringLife } from '.';
import { MINUTE } from '../base';
import { fitLives, repeatability, instrumentStatus, settlingEvents, totalFallCents } from '../status';

const START = 1_780_000_000_000;
const base = { version: 2 as const, zoneMin: 0 };
const plans = ['A4', 'D4'].map((note, i) => ({
  stringId: `s${i + 1}`,
  note,
  lengthMm: 650,
  material: 'plain-nylon' as const,
  gaugeMm: 0.7,
}));
const instrument: LogRecord = {
  ...base,
  id: 'i',
  atMs: START,
  type: 'instrument',
  instrumentId: 'x',
  name: 'X',
  family: 'own',
  strings: plans,
};
let serial = 0;
const read = (stringId: string, minute: number, cents: number, more: Partial<ReadingRecord> = {}): ReadingRecord => ({
  ...base,
  id: `r${++serial}`,
  atMs: START + minute * MINUTE,
  type: 'reading',
  instrumentId: 'x',
  stringId,
  purpose: 'as-found',
  source: 'simulated',
  frequencyHz: 440,
  cents,
  sigmaCents: 0.1,
  targetHz: 440,
  a4Hz: 440,
  partials: [],
  ...more,
});
const fitted = (stringId: string, minute: number): LogRecord => ({
  ...base,
  id: `f${++serial}`,
  atMs: START + minute * MINUTE,
  type: 'fitted',
  instrumentId: 'x',
  stringId,
});
const lives = (records: LogRecord[]): StringLife[] => readBench(records).instruments[0]!.strings;
const WISH = { toleranceCents: 3, holdMin: 90, curtainMs: null, confidence: 0.9 };

test('a superseded or taken-back record no longer stands, and nothing is lost', () => {
  const wrong = read('s1', 5, -40);
  const right = read('s1', 5, -4, { supersedes: wrong.id });
  const other = read('s2', 6, -7);
  const back: LogRecord = { ...base, id: 't', atMs: START + 7 * MINUTE, type: 'taken-back', supersedes: other.id };
  const all = [instrument, wrong, right, other, back];
  expect(standing(all).map((r) => r.id)).toEqual([instrument.id, right.id]);
  expect(all).toHaveLength(5);
});

test('readings of a removed string do not count for the new one', () => {
  const [a] = lives([instrument, fitted('s1', 0), read('s1', 5, -10), fitted('s1', 100), read('s1', 105, -2)]);
  expect(a!.readings.map((r) => r.cents)).toEqual([-2]);
  expect(settlingEvents(a!).events[1]).toMatchObject({ t: 5, kind: 'read' });
});

test('a removed string keeps its life: age, total fall, reason; breaks at one place are counted', () => {
  const removed = (minute: number, more: object): LogRecord => ({
    ...base,
    id: `x${++serial}`,
    atMs: START + minute * MINUTE,
    type: 'removed',
    instrumentId: 'x',
    stringId: 's1',
    reason: 'broke',
    ...more,
  });
  const [a] = lives([
    instrument,
    fitted('s1', 0),
    read('s1', 5, -10, { purpose: 'as-left' }),
    read('s1', 50, -18),
    removed(60, { place: 'nut' }),
    fitted('s1', 61),
    removed(90, { place: 'nut' }),
    fitted('s1', 91),
    fitted('s1', 200),
  ]);
  expect(a!.past.map((p) => [p.reason, p.place, p.strungMs, p.endedMs])).toEqual([
    ['broke', 'nut', START, START + 60 * MINUTE],
    ['broke', 'nut', START + 61 * MINUTE, START + 90 * MINUTE],
    [null, null, START + 91 * MINUTE, START + 200 * MINUTE],
  ]);
  expect(totalFallCents(a!.past[0]!.readings)).toBeCloseTo(8, 6);
  expect(breaksAt(a!.past).get('nut')).toBe(2);
  expect(a!.readings).toEqual([]);
  const [off] = lives([instrument, fitted('s1', 0), read('s1', 5, -1), removed(9, { reason: 'worn' })]);
  expect(off!.strungMs).toBeNull();
  expect(off!.readings).toEqual([]);
  expect(off!.bare).toBe(true);
  expect(a!.bare).toBe(false);
  // An undated string that breaks counts; said again of the string already off, it is a correction.
  const [again] = lives([instrument, removed(5, { place: 'nut' }), removed(6, { place: 'bridge' })]);
  expect(again!.past.map((p) => p.place)).toEqual(['bridge']);
});

test('a drop that a stretch made is no creep: the record starts afresh there', () => {
  const [a] = lives([
    instrument,
    fitted('s1', 0),
    read('s1', 5, 0, { purpose: 'as-left' }),
    read('s1', 6, -20, { stretched: true }),
  ]);
  expect(settlingEvents(a!).events.map((e) => e.kind)).toEqual(['retune', 'retune', 'read', 'stretch', 'read']);
});

test('too few readings give no forecast; two at different times do', () => {
  const status = (records: LogRecord[]) =>
    instrumentStatus(readBench(records).instruments[0]!, { ...WISH, nowMs: START + 60 * MINUTE })[0]!;
  const one = status([instrument, fitted('s1', 0), read('s1', 5, -3)]);
  expect(one).toMatchObject({ state: 'settling', chance: null, nextCheckMs: null });
  const two = status([instrument, fitted('s1', 0), read('s1', 5, -3), read('s1', 55, -50)]);
  expect(two.chance).toBeLessThan(0.2);
  expect(status([instrument]).state).toBe('unread');
});

test('a sudden drop of one string asks for a second pluck, and the second makes it a slip', () => {
  const records: LogRecord[] = [instrument, fitted('s1', 0), fitted('s2', 0)];
  for (const day of [1, 2, 3, 4, 5, 6]) {
    records.push(read('s1', 1440 * day, 0.2 * day), read('s2', 1440 * day + 1, -0.2 * day));
  }
  const now = 1440 * 7;
  const suspect = read('s1', now, -14);
  records.push(suspect, read('s2', now + 1, -1));
  const status = () =>
    instrumentStatus(readBench(records).instruments[0]!, { ...WISH, nowMs: START + (now + 3) * MINUTE })[0]!;
  expect(status().leap).toMatchObject({ readingId: suspect.id });
  expect(status().leap!.cents).toBeLessThan(-12);
  records.push(read('s1', now + 2, -14.3, { slip: true }));
  expect(status()).toMatchObject({ state: 'slipped', leap: null });
  // One that stands sharp at once does not fit either; where it is confirmed the forecast starts there.
  const high = read('s1', now + 60, 4);
  records.push(high, read('s2', now + 61, -1));
  expect(status().leap).toMatchObject({ readingId: high.id });
  records.push(read('s1', now + 62, 4.2, { slip: true }));
  const after = instrumentStatus(readBench(records).instruments[0]!, {
    ...WISH,
    nowMs: START + (now + 63) * MINUTE,
  })[0]!;
  expect(after).toMatchObject({ state: 'rose', leap: null });
  expect(Math.abs(after.byNow!.cents - 4.2)).toBeLessThan(1);
});

const partialsAt = (cents: number, bodyCents: number[]) =>
  bodyCents.map((body, i) => ({
    n: i + 1,
    frequencyHz: 440 * (i + 1) * Math.pow(2, (cents + body) / 1200),
    sigmaHz: 0.01,
  }));

test('total fall takes changes partial by partial: a pitch that wanders with the plucking place does not count', () => {
  const body = [3, -4, 2, -1];
  const records: LogRecord[] = [
    instrument,
    fitted('s1', 0),
    read('s1', 1, 0.6, { purpose: 'as-left', partials: partialsAt(0, body) }),
    // The fitted pitch says 5.2 cents, the same partials say 6.
    read('s1', 20, -4.6, { partials: partialsAt(-6, body) }),
  ];
  const life = lives(records)[0]!;
  const status = instrumentStatus(readBench(records).instruments[0]!, { ...WISH, nowMs: START + 21 * MINUTE })[0]!;
  expect(status.totalFallCents).toBeCloseTo(6, 1);
  expect(settlingEvents(life).events[3]).toMatchObject({ kind: 'read', cents: expect.closeTo(-5.4, 1) as number });
});

test('repeatability is learned from readings with no tuner touched between them', () => {
  const records: LogRecord[] = [instrument, fitted('s1', 0)];
  [0.2, -0.2, 0.2, -0.2].forEach((c, i) => records.push(read('s1', 10 + i, c, { partials: partialsAt(c, [0, 0]) })));
  expect(repeatability(lives(records)[0]!.readings)).toMatchObject({
    pairs: 3,
    cents: expect.closeTo(0.283, 2) as number,
  });
  expect(repeatability(lives(records)[0]!.readings.slice(0, 3))).toBeNull();
});

test('a record of version 1 is brought up to date when it is read', () => {
  const { partials: _none, ...old } = read('s1', 3, -2);
  const checked = checkRecord({ ...old, version: 1 });
  expect(checked).toMatchObject({ ok: true, record: { version: 2, partials: [], cents: -2 } });
  expect(checkRecord(old)).toMatchObject({ ok: false });
  expect(checkRecord({ ...old, version: 3 })).toMatchObject({ ok: false });
});

test('another reference or note in force is no drift: what was read is reckoned against it', () => {
  const found = read('s1', 5, -4);
  const to432: LogRecord = { ...base, id: 'ref', atMs: START + 10 * MINUTE, type: 'reference', a4Hz: 432 };
  const [a] = lives([instrument, fitted('s1', 0), found, to432]);
  expect(a!.readings[0]!.cents).toBeCloseTo(-4 + 1200 * Math.log2(440 / 432), 6);
  expect(a!.readings[0]!.targetHz).toBeCloseTo(432, 6);
  // Read again by the new reference it has not fallen by it.
  const later = read('s1', 60, 25, { a4Hz: 432, targetHz: 432 });
  const [b] = lives([instrument, fitted('s1', 0), found, to432, later]);
  expect(totalFallCents(b!.readings)).toBeCloseTo(27.766 - 25, 2);

  const renamed: LogRecord = {
    ...instrument,
    id: 'i2',
    atMs: START + 20 * MINUTE,
    strings: [{ ...plans[0]!, note: 'G4' }, plans[1]!],
  };
  const [c, d] = lives([instrument, fitted('s1', 0), found, read('s2', 5, -1), renamed, read('s1', 30, 3)]);
  expect(c!.readings.map((r) => Math.round(r.cents))).toEqual([196, 3]);
  expect(d!.readings.map((r) => r.cents)).toEqual([-1]);
});

test('an instrument put away leaves the bench with its record, and comes back with it', () => {
  const away: LogRecord = { ...instrument, id: 'i2', atMs: START + 10 * MINUTE, away: true };
  const all = [instrument, fitted('s1', 0), read('s1', 5, -4), away];
  expect(readBench(all).instruments).toEqual([]);
  expect(readBench(all).away.map((r) => r.name)).toEqual(['X']);
  const back = readBench([...all, { ...instrument, id: 'i3', atMs: START + 20 * MINUTE }]);
  expect(back.away).toEqual([]);
  expect(back.instruments[0]!.strings[0]!.readings).toHaveLength(1);
});

test('a pass that named its steps with slashes is read with colons, as ids are written', () => {
  const pass = { ...base, id: 'p', atMs: START, type: 'pass', passId: 'p', kind: 'octave', instrumentId: 'x' };
  const checked = checkRecord({ ...pass, startedMs: START, skipped: ['s1/fret/12/0'], over: false });
  expect(checked).toMatchObject({ ok: true, record: { skipped: ['s1:fret:12:0'] } });
});

test('a tuning in force moves the targets, not the strings; a capo shortens them; an edited note puts it out of force', () => {
  const found = read('s1', 5, -4);
  const tuned = (minute: number, note: string, offsetCents: number, capo?: number): LogRecord => ({
    ...base,
    id: `t${++serial}`,
    atMs: START + minute * MINUTE,
    type: 'tuning',
    instrumentId: 'x',
    name: 'Other',
    ...(capo ? { capo } : {}),
    strings: [{ stringId: 's1', note, offsetCents }],
  });
  const [sweet] = lives([instrument, found, tuned(10, 'A4', 2.5)]);
  expect(sweet!.plan).toMatchObject({ note: 'A4', offsetCents: 2.5 });
  expect(sweet!.readings[0]!.cents).toBeCloseTo(-6.5, 6);
  // Let down a half step it stands a half step sharp, and falls no further than it did.
  const down = tuned(10, 'G#4', 0);
  const left = read('s1', 12, 0, { purpose: 'as-left', targetHz: 440 * 2 ** (-1 / 12) });
  const [low] = lives([instrument, found, down, left]);
  expect(low!.readings.map((r) => Math.round(r.cents))).toEqual([96, 0]);
  expect(totalFallCents(low!.readings)).toBeCloseTo(0, 6);
  // A capo raises what sounds and leaves the string as it was.
  const [capo] = lives([instrument, found, tuned(10, 'B4', 0, 2)]);
  expect(capo!.plan.lengthMm).toBeCloseTo(650 * 2 ** (-2 / 12), 6);
  expect(capo!.readings[0]!.cents).toBeCloseTo(-4, 6);
  const edited: LogRecord = {
    ...instrument,
    id: 'i9',
    atMs: START + 20 * MINUTE,
    strings: [{ ...plans[0]!, note: 'G4' }, plans[1]!],
  };
  expect(lives([instrument, found, down, edited])[0]!.plan.note).toBe('G4');
});

test('playing that was noted after the last reading ages the string once', () => {
  const played = (minutes: number): LogRecord => ({
    ...base,
    id: `p${minutes}`,
    atMs: START + 200 * MINUTE,
    type: 'treatment',
    instrumentId: 'x',
    stringIds: ['s1'],
    treatment: 'played',
    minutes,
  });
  const life = (minutes: number) =>
    readBench([instrument, fitted('s1', 0), read('s1', 5, 0), read('s1', 100, -30), played(minutes)]).instruments[0]!;
  const own = fitLives(life(40).strings, 'at the last reading')[0]!;
  expect(own.fit.nowMin).toBeCloseTo(240);
});
