import { readingAt } from '../../../testing/guided';
import type { Heard, Reading, Refusal, SectionHeard, TrackPoint } from '../pitch';
import { type LogRecord, type ReadingRecord, readBench } from '../log';
import { createGuide, whichString, type Guide, type GuidedStep, type Verdict } from '.';
import { lastKept, nextStep } from '../check';
import { passUnderWay } from './pass';
import { createSayer } from './sentence';
import { MINUTE } from '../base';

const hz = (note: number, cents = 0) => 440 * 2 ** ((note - 69) / 12 + cents / 1200);
const A2 = { id: 'a', name: 'A2', targetHz: hz(45) };
const E2 = { id: 'e', name: 'E2', targetHz: hz(40) };
const D3 = { id: 'd', name: 'D3', targetHz: hz(50) };
const at = <T extends { targetHz: number }>(place: T, cents: number) => ({
  ...place,
  lastHz: place.targetHz * 2 ** (cents / 1200),
});

describe('which string a pitch is', () => {
  const cases: [
    string,
    number,
    Parameters<typeof whichString>[1],
    Parameters<typeof whichString>[2],
    boolean,
    string,
  ][] = [
    ['near where it was last', hz(45, -20), at(A2, -12), [E2, D3], false, 'named'],
    ['a string away, where that one was read', hz(50, -30), at(A2, -12), [E2, at(D3, -31)], false, 'D3'],
    ['a string away, nothing read yet', hz(50, -55), A2, [E2, D3], false, 'D3'],
    ['300 below, and no other string is there', hz(42), A2, [E2, D3], false, 'far'],
    ['the same while the tuner is turned: nobody has turned it there', hz(42), A2, [E2, D3], true, 'far'],
    ['on its way from where it was to its target', hz(42), at(A2, -420), [E2, D3], true, 'named'],
    ['just fitted and slack, far from all', hz(37), { ...A2, fresh: true }, [E2, D3], false, 'named'],
    [
      'just fitted, at the very pitch of a neighbour that was read',
      hz(40, -3),
      { ...A2, fresh: true },
      [at(E2, -2)],
      false,
      'E2',
    ],
    [
      'the same while the tuner is turned, and nobody knows yet where it hangs',
      hz(40, -3),
      { ...A2, fresh: true },
      [at(E2, -2)],
      true,
      'E2',
    ],
    ['it passes that neighbour on its way', hz(40, -3), at(A2, -530), [at(E2, -2)], true, 'named'],
    [
      'two strings a semitone apart: the nearer one',
      hz(45, -60),
      at(A2, -5),
      [at({ ...E2, targetHz: hz(44) }, 38)],
      false,
      'E2',
    ],
    ['sharp past its neighbour’s place', hz(50), at(A2, -5), [E2], false, 'far'],
  ];
  test.each(cases)('%s', (_, heard, named, others, rising, wanted) => {
    const which = whichString(heard, named, others, named.lastHz ?? named.targetHz, rising);
    expect(which.is === 'other' ? which.other.name : which.is).toBe(wanted);
  });
});

const reading = (cents: number, more: Partial<Reading> = {}): Reading =>
  readingAt(A2.targetHz, cents, { sigmaCents: 0.4, ...more });
const section = (
  note: number,
  fromS: number,
  outcome: Reading | Refusal,
  part: SectionHeard['part'] = 'whole',
  toS = fromS + 1.1,
): SectionHeard => ({ kind: 'section', stringId: 'a', note, onsetS: fromS, fromS, toS, part, over: false, outcome });
const onset = (note: number, atS: number): Heard => ({ kind: 'onset', note, atS });
/** The trace of a string that stands or moves, 40 points a second, one by one as the listener hands them on. */
const trace = (fromS: number, toS: number, centsAt: (s: number) => number | null): Heard[] =>
  Array.from({ length: Math.round(40 * (toS - fromS)) }, (_, k) => {
    const tS = fromS + k / 40;
    const point: TrackPoint = {
      tS,
      cents: centsAt(tS),
      frequencyHz: 1,
      confidence: 1,
      levelDb: -20,
      floorDb: -60,
      clipped: false,
    };
    return { kind: 'track', points: [point] };
  });
function guideFor(purpose: 'found' | 'left', more: Partial<GuidedStep> = {}): Guide {
  const guide = createGuide();
  guide.setStep({
    step: { stringId: 'a', purpose },
    named: at(A2, -12),
    others: [E2, D3],
    belongsHz: A2.targetHz,
    expectedHz: at(A2, -12).lastHz,
    toleranceCents: 3,
    foundCents: -12,
    ...more,
  });
  return guide;
}
/** A string that stands so all the while, plucked and heard out. */
const stands = (cents: number): (Heard | Heard[])[] => [
  onset(1, 0),
  trace(0, 3, () => cents),
  section(1, 0, reading(cents)),
  section(1, 1.2, reading(cents), 'running'),
  section(1, 1.5, reading(cents), 'running'),
];
const hear = (guide: Guide, ...heard: (Heard | Heard[])[]): Verdict[] => heard.flat().flatMap((h) => guide.hear(h));
const kinds = (list: Verdict[]) => list.map((v) => (v.kind === 'refuse' ? v.reason : v.kind));

describe('as found', () => {
  test('the whole of a pluck is kept once, a provisional figure is not', () => {
    const g = guideFor('found');
    expect(kinds(hear(g, onset(1, 0), section(1, 0, reading(-11), 'provisional', 0.5)))).toEqual([]);
    expect(kinds(hear(g, section(1, 0, reading(-11)), section(1, 0, reading(-11))))).toEqual(['keep']);
  });

  test('a string that stands elsewhere is asked about by name, once a note, and Enter is yes', () => {
    const g = guideFor('found');
    const [asked, ...more] = hear(g, onset(1, 0), section(1, 0, reading(480)), section(1, 0, reading(480)));
    expect(more).toHaveLength(0);
    expect(asked).toMatchObject({ kind: 'ask', hearingId: 'd' });
    expect(asked?.kind === 'ask' && asked.message).toBe(
      'That is 492 cents above where A2 was expected: is it A2 gone sharp (Enter), or D3?',
    );
    expect(g.view(1, true).sentence).toContain('or D3?');
    expect(g.take()).toMatchObject({ kind: 'keep', reading: { cents: 480 } });
    // Another pluck takes the question away.
    const h = guideFor('found');
    hear(h, onset(1, 0), section(1, 0, reading(-300)), onset(2, 3));
    expect(kinds(hear(h, section(2, 3, reading(-11))))).toEqual(['keep']);
  });

  test('a tuner that was turned meanwhile is no reading; a refusal is told once', () => {
    expect(kinds(hear(guideFor('found'), onset(1, 0), section(1, 0, reading(-9, { driftCents: 11 }))))).toEqual([
      'unsteady',
    ]);
    const no: Refusal = { ok: false, reason: 'two-strings', message: 'x' };
    expect(kinds(hear(guideFor('found'), onset(1, 0), section(1, 0, no), section(1, 0, no)))).toEqual(['two-strings']);
  });

  test('Enter with nothing in the air says so and passes nothing over', () => {
    expect(guideFor('found').take()).toMatchObject({ kind: 'refuse', reason: 'nothing' });
  });
});

describe('as left', () => {
  const still = (note: number, fromS: number, cents: number, more: Partial<Reading> = {}) =>
    section(note, fromS, reading(cents, more));

  test('what is turned while it sounds is not called a knock or two strings; what stands and is none is', () => {
    for (const reason of ['no-pitch', 'two-strings'] as const) {
      const no: Refusal = { ok: false, reason, message: 'x' };
      const toldOf = (centsAt: (s: number) => number) =>
        kinds(hear(guideFor('left'), onset(1, 0), trace(0, 1.1, centsAt), section(1, 0, no)));
      expect(toldOf((s) => 60 - 80 * Math.max(0, s - 0.5))).toEqual([]);
      expect(toldOf(() => 60)).toEqual([reason]);
    }
  });

  test('kept when it has stood still for a second within tolerance, and not before', () => {
    const g = guideFor('left');
    hear(
      g,
      onset(1, 0),
      trace(0, 1, () => -12),
    );
    expect(kinds(hear(g, section(1, 0.2, reading(-1), 'running', 0.9)))).toEqual([]);
    expect(kinds(hear(g, section(1, 0.6, reading(-1), 'running', 1.4)))).toEqual(['keep']);
  });

  test('never while the hand moves, by the drift of the section or by the trace', () => {
    expect(kinds(hear(guideFor('left'), onset(1, 0), still(1, 0, -1, { driftCents: 4 })))).toEqual([]);
    expect(kinds(hear(guideFor('left'), onset(1, 0), still(1, 0, -1, { driftCents: -4 })))).toEqual([]);
    // Let down while it sounded, a string looks plucked hard.
    expect(kinds(hear(guideFor('left'), onset(1, 0), still(1, 0, -1, { glideCents: 9 })))).toEqual([]);
    const g = guideFor('left');
    hear(
      g,
      onset(1, 0),
      trace(0, 1.1, (s) => (s < 0.9 ? -8 : -1)),
    );
    expect(kinds(hear(g, still(1, 0, -1)))).toEqual([]);
  });

  test('never out of tolerance by itself, its doubt included', () => {
    expect(kinds(hear(guideFor('left'), onset(1, 0), still(1, 0, -2.8)))).toEqual([]);
    expect(kinds(hear(guideFor('left'), onset(1, 0), still(1, 0, 4)))).toEqual([]);
    expect(kinds(hear(guideFor('left'), onset(1, 0), still(1, 0, -2, { sigmaCents: 2 })))).toEqual(['uncertain']);
  });

  test('a string that stands inside, too near the edge to be kept, is told which way', () => {
    const standsAt = (cents: number) => {
      const g = guideFor('left');
      hear(
        g,
        onset(1, 0),
        trace(0, 1.2, () => 0.7 * cents),
      );
      g.view(1, true);
      expect(kinds(hear(g, section(1, 0, reading(cents, { sigmaCents: 0.75 }), 'running', 1.2)))).toEqual([]);
      g.view(1.3, true);
      return g.view(2.2, true).sentence;
    };
    expect(standsAt(-2.6)).toBe('Bring it up 3 cents');
    expect(standsAt(2.6)).toBe('Go below, then up');
  });

  test('turned as it was told, a string is no refusal', () => {
    const moved: Refusal = { ok: false, reason: 'unsteady', message: 'x' };
    expect(kinds(hear(guideFor('left'), onset(1, 0), section(1, 0, moved)))).toEqual([]);
  });

  test('out of tolerance the first Enter says so, the second keeps it as it is', () => {
    const g = guideFor('left');
    hear(
      g,
      onset(1, 0),
      trace(0, 1, () => -22),
    );
    expect(g.take()).toBe('read');
    const [first] = hear(g, section(1, 0, reading(-22), 'asked'));
    expect(first).toMatchObject({ kind: 'refuse', reason: 'off' });
    expect(first?.kind === 'refuse' && first.message).toContain('−22');
    expect(kinds(hear(g, section(1, 0, reading(-22), 'asked')))).toEqual(['keep']);
  });

  test('told where it stands, and turned since: the next Enter tells anew, it does not keep it', () => {
    const g = guideFor('left');
    hear(g, onset(1, 0));
    expect(kinds(hear(g, section(1, 0, reading(-22), 'asked')))).toEqual(['off']);
    // Brought up and plucked again: another note, elsewhere.
    hear(g, onset(2, 4));
    expect(kinds(hear(g, section(2, 4, reading(-6.5), 'asked')))).toEqual(['off']);
    expect(kinds(hear(g, section(2, 4, reading(-6.2), 'asked')))).toEqual(['keep']);
  });

  test('a note that was turned while it was read does not teach how the trace differs from readings', () => {
    const g = guideFor('left');
    hear(
      g,
      onset(1, 0),
      trace(0.1, 1.4, (s) => (s < 0.75 ? -6 : -4)),
      section(1, 0, reading(-6.4, { driftCents: 0.4 })),
    );
    hear(
      g,
      trace(1.4, 2, () => -4),
    );
    expect(g.view(2, true).figure?.cents).toBeCloseTo(-4, 1);
  });

  test('what was read while a hand turned is not kept: the trace shows it elsewhere by now', () => {
    const g = guideFor('left');
    hear(
      g,
      onset(1, 0),
      trace(0.3, 2, (s) => (s < 1.2 ? -8 : -0.7)),
    );
    const [verdict] = hear(g, section(1, 0, reading(-6.5, { sigmaCents: 0.6, driftCents: 5 }), 'asked', 2));
    expect(verdict).toMatchObject({ kind: 'refuse', reason: 'unsteady' });
    expect(
      kinds(
        hear(
          g,
          trace(2, 3, () => -0.7),
          section(1, 2, reading(-0.8), 'asked', 3),
        ),
      ),
    ).toEqual(['keep']);
  });

  test('how it arrived: from where it was found, by the trace, and past the target', () => {
    const arrival = (found: number, ...traces: Heard[][]) => {
      const g = guideFor('left', { foundCents: found });
      hear(g, onset(1, 0), ...traces, onset(2, 5));
      const [v] = hear(g, still(2, 5, 0.5));
      return v?.kind === 'keep' ? v.arrival : undefined;
    };
    expect(arrival(-12)).toBe('from below');
    expect(arrival(15)).toBe('from above');
    expect(arrival(0)).toBe('untouched');
    expect(
      arrival(
        -12,
        trace(0.3, 2, () => 9),
      ),
    ).toBe('overshot');
    expect(
      arrival(
        -12,
        trace(0.3, 2, () => 9),
        trace(2, 4, () => -7),
      ),
    ).toBe('from below');
    // A single point astray, or the start of a pluck, is no overshoot.
    expect(
      arrival(
        -12,
        trace(0, 0.15, () => 14),
        trace(0.15, 2, (s) => (Math.abs(s - 1) < 0.02 ? 40 : -1)),
      ),
    ).toBe('from below');
  });

  test('another string is told by its name and not followed; a slack one on its way is followed', () => {
    expect(hear(guideFor('left'), onset(1, 0), still(1, 0, 498))).toMatchObject([
      { reason: 'other-string', hearingId: 'd' },
    ]);
    const g = guideFor('left', { named: { ...A2, fresh: true }, foundCents: null });
    expect(kinds(hear(g, onset(1, 0), still(1, 0, -500)))).toEqual([]);
    hear(
      g,
      trace(1, 3, (s) => -500 + 250 * (s - 1)),
      onset(2, 4),
    );
    expect(kinds(hear(g, still(2, 4, -0.5)))).toEqual(['keep']);
  });

  test('what is not surely the string in hand gives no instruction to turn', () => {
    const g = guideFor('left');
    hear(
      g,
      onset(1, 0),
      trace(0, 1.5, () => -12),
    );
    expect(g.view(1.5, true).sentence).toBe('Bring it up 12 cents');
    // The D sounds: neither a figure nor a way to turn, and the same words as the message.
    hear(
      g,
      onset(2, 2),
      trace(2, 3.2, () => 497),
    );
    expect(g.view(3.2, true)).toMatchObject({ sentence: 'You are hearing D3: pluck A2', figure: null });
    // A sound from nowhere is asked about.
    hear(
      g,
      onset(3, 4),
      trace(4, 5.2, () => -913),
    );
    expect(g.view(5.2, true)).toMatchObject({ sentence: 'Let it ring', figure: null });
    const [far] = hear(g, still(3, 4, -913));
    expect(far).toMatchObject({
      kind: 'ask',
      message: 'That is 913 cents below A2: is it A2 gone slack (Enter)? Or pluck again',
    });
    expect(g.view(5.3, true).sentence).toContain('gone slack');
    expect(g.take()).toMatchObject({ kind: 'refuse', message: 'Then A2 is at −913. Pluck it again.' });
    hear(
      g,
      onset(4, 6),
      trace(6, 7.5, () => -913),
    );
    expect(g.view(7.5, true).sentence).toBe('Bring it up 913 cents');
  });

  test('what it falls by itself late in every note is no hand’s', () => {
    const g = guideFor('left');
    hear(g, onset(1, 0), still(1, 0, -8), section(1, 1.2, reading(-11), 'running', 2));
    hear(g, onset(2, 3), still(2, 3, -8), onset(3, 6));
    const late = hear(g, section(3, 6.3, reading(-4), 'running', 7.4));
    expect(late).toMatchObject([{ kind: 'keep', reading: { cents: -1 } }]);
  });
});

test('one sentence at a time: it stands for 0.7 s unless the hand acts', () => {
  const sayer = createSayer();
  expect(sayer.say('a', 0, true)).toBe('a');
  expect(sayer.say('b', 0.1, false)).toBe('a');
  expect(sayer.say('b', 0.5, false)).toBe('a');
  expect(sayer.say('b', 0.75, false)).toBe('b');
  // What flickers is not said.
  expect(sayer.say('c', 1.5, false)).toBe('b');
  expect(sayer.say('b', 1.55, false)).toBe('b');
  expect(sayer.say('c', 1.6, false)).toBe('b');
  expect(sayer.say('c', 1.7, true)).toBe('c');
});

test('the sentence follows the string, keeps its last figure for a while, and then asks for a pluck', () => {
  const g = guideFor('left');
  hear(
    g,
    onset(1, 0),
    trace(0, 1.5, (s) => -12 + 1.5 * Math.sin(40 * s)),
  );
  expect(g.view(1.5, true).sentence).toMatch(/^Bring it up 1[0-4] cents$/);
  expect(g.view(1.5, false).sentence).toBeDefined();
  hear(
    g,
    trace(1.5, 3, () => null),
  );
  const fading = g.view(3, true);
  expect(fading.figure).toBeNull();
  expect(Math.abs(fading.faded!.cents + 12)).toBeLessThan(2);
  g.view(5, true);
  expect(g.view(5.5, true).sentence).toBe('Pluck A2 and turn');
});

test('what sounds as found and is another string moves no figure and is told by its name', () => {
  const g = guideFor('found', { others: [E2, at(D3, -5)] });
  hear(
    g,
    onset(1, 0),
    trace(0, 0.6, () => 500 - 5),
  );
  const seen = g.view(0.6, true);
  expect(seen.figure).toBeNull();
  expect(seen.sentence).toBe('You are hearing D3: pluck A2');
});

test('six seconds without a note are told, with the level; a room that hides all strings is told instead', () => {
  const quiet = (floorDb: number): Heard[] =>
    trace(0, 7, () => null).map((h) =>
      h.kind === 'track' ? { ...h, points: h.points.map((p) => ({ ...p, levelDb: -48, floorDb })) } : h,
    );
  const g = guideFor('found');
  hear(g, ...quiet(-60));
  expect(g.view(5, true).sentence).toBe('Pluck A2, touch no tuner');
  g.view(6.9, true);
  expect(g.view(7.3, true).sentence).toBe('Nothing heard yet: pluck A2 (input −48\u00a0dB)');
  const loud = guideFor('found');
  hear(loud, ...quiet(-20));
  expect(loud.view(7, true).sentence).toBe('Too loud to hear A2: −20\u00a0dB');
});

test('another source begins at its own time: what stands still there is kept, however long the first one ran', () => {
  const g = guideFor('left');
  hear(
    g,
    onset(8, 60),
    trace(60, 61, () => -12),
  );
  const verdicts = hear(
    g,
    trace(0, 0.2, () => null),
    onset(0, 0.2),
    trace(0.2, 2.5, () => 0.4),
    section(0, 0.3, reading(0.4)),
    section(0, 1.3, reading(0.4), 'running'),
  );
  expect(kinds(verdicts)).toEqual(['keep']);
});

test('a string that is to be left above its target is not as left half a cent below that', () => {
  const wanted = { toleranceCents: 1.6, belowCents: 0.5 };
  const left = (cents: number) => {
    const g = guideFor('left', wanted);
    return [...kinds(hear(g, ...stands(cents))), g.view(3, true).sentence];
  };
  expect(left(-0.3)[0]).toBe('keep');
  expect(left(1.2)[0]).toBe('keep');
  expect(left(-0.9)).toEqual(['Bring it up 1 cent']);
  // The player's own word is asked twice, and told what it means; what is told counts from where the string belongs.
  const g = guideFor('left', { ...wanted, belongsHz: hz(45, -3) });
  hear(g, ...stands(-2));
  expect(hear(g, section(1, 1, reading(-2), 'asked'))[0]).toMatchObject({
    message: 'It is at +1.0: it may go flat during the show. Press Enter again to keep it as it is.',
  });
});

const START = 1_780_000_000_000;
const base = { version: 2 as const, zoneMin: 0, atMs: START };
const plan = { note: 'A2', lengthMm: 650, material: 'wound-nylon' as const, gaugeMm: 0.9 };
const instrument: LogRecord = {
  ...base,
  id: 'i',
  type: 'instrument',
  instrumentId: 'x',
  name: 'X',
  family: 'guitar-nylon',
  strings: [
    { ...plan, stringId: 's1' },
    { ...plan, stringId: 's2', note: 'E2' },
  ],
};
const read = (stringId: string, minute: number, cents: number, more: Partial<ReadingRecord> = {}): ReadingRecord => ({
  ...base,
  id: `${stringId}-${minute}`,
  atMs: START + minute * MINUTE,
  type: 'reading',
  instrumentId: 'x',
  stringId,
  purpose: 'as-found',
  source: 'typed',
  frequencyHz: 110,
  cents,
  sigmaCents: 1,
  targetHz: 110,
  a4Hz: 440,
  partials: [],
  ...more,
});
const lives = (records: LogRecord[]) => readBench(records).instruments[0]!.strings;

test('a pass hears every string as found before any is brought up, then those out of tolerance', () => {
  const pass = { startedMs: START + 50 * MINUTE, skipped: [] };
  const records: LogRecord[] = [instrument, read('s1', 10, -9)];
  const next = () => nextStep(lives(records), [], pass, 3);
  expect(next()).toEqual({ stringId: 's1', purpose: 'found' });
  records.push(read('s1', 51, -8));
  expect(next()).toMatchObject({ stringId: 's2', purpose: 'found' });
  records.push(read('s2', 52, 1));
  expect(next()).toMatchObject({ stringId: 's1', purpose: 'left' });
  records.push(read('s1', 53, 0.2, { purpose: 'as-left' }));
  expect(next()).toBeUndefined();
});

test('the pass and what it kept are in the log: the newest word counts, an old or ended pass is over', () => {
  const pass = (minute: number, more: object): LogRecord => ({
    ...base,
    id: `p${minute}`,
    atMs: START + minute * MINUTE,
    type: 'pass',
    passId: 'one',
    kind: 'check',
    instrumentId: 'x',
    startedMs: START,
    skipped: [],
    over: false,
    ...more,
  });
  const now = START + 30 * MINUTE;
  const passes = (...records: LogRecord[]) => readBench([instrument, ...records]).passes;
  const running = passes(pass(0, {}), pass(2, { skipped: ['s1'] }));
  expect(passUnderWay(running, 'check', 'x', now)?.skipped).toEqual(['s1']);
  expect(passUnderWay(running, 'octave', 'x', now)).toBeUndefined();
  expect(passUnderWay(running, 'check', 'x', now + 24 * 60 * MINUTE)).toBeUndefined();
  expect(passUnderWay(passes(pass(0, {}), pass(3, { over: true })), 'check', 'x', now)).toBeUndefined();
  const strings = lives([instrument, read('s1', -5, -9), read('s2', 4, 1), read('s1', 3, -8)]);
  expect(lastKept(strings, { startedMs: START, skipped: [] })?.id).toBe('s2-4');
});
