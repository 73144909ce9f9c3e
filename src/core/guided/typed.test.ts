import { typedReading } from '../../../testing/typed';
import type { InstrumentLife, ReadingRecord, StringPlan } from '../log';
import { correctReading, figureText } from './correct';
import { readTyped } from './typed';
import { MINUTE } from '../base';

const D3 = 146.832;
const at = (cents: number, hz = D3) => hz * 2 ** (cents / 1200);
const place = { name: 'D3', belongsHz: D3, expectedHz: D3, known: false, sure: false };

describe('a typed figure', () => {
  test.each([
    ['−7.2', -7.2],
    ['-7,2', -7.2],
    ['+4 cents', 4],
    [' 3c ', 3],
    [`${at(-12).toFixed(9)} Hz`, -12],
  ])('%s counts from where the string belongs', (text, cents) => {
    // It was read 30 cents flat: that is where it is expected, and no zero of anything.
    expect(readTyped(text, { ...place, expectedHz: at(-30), known: true }, 440)).toMatchObject({
      is: 'reading',
      cents,
      frequencyHz: expect.closeTo(at(cents), 6),
      sigmaCents: 1,
    });
  });

  test.each(['', 'abc', '12 13', '−1301', '1301', '0 Hz', '−5 Hz', '9000 Hz'])('%s is none', (text) => {
    expect(readTyped(text, place, 440)).toMatchObject({
      is: 'refused',
      message: expect.stringMatching(/^Write cents/),
    });
  });

  test('beyond 100 cents from where it is expected now it is asked about, with the distance from there or from where it belongs', () => {
    const stop = { ...place, expectedHz: at(-118), known: false };
    expect(readTyped('-118', stop, 440).is).toBe('reading');
    expect(readTyped('-217', stop, 440).is).toBe('reading');
    expect(readTyped('-219', stop, 440)).toMatchObject({
      is: 'question',
      message: expect.stringContaining('219 cents below D3, near C3'),
    });
    const read = { ...place, expectedHz: at(-30), known: true };
    expect(readTyped('71', read, 440)).toMatchObject({
      is: 'question',
      cents: 71,
      message: expect.stringContaining('101 cents above where D3 was expected'),
    });
    expect(readTyped('69', read, 440).is).toBe('reading');
    expect(readTyped('147', place, 440)).toMatchObject({ message: expect.stringContaining('write Hz after it') });
    expect(readTyped('-147', place, 440)).toMatchObject({ message: expect.not.stringContaining('write Hz after it') });
    expect(readTyped('-400', { ...place, sure: true }, 440).is).toBe('reading');
  });
});

describe('a reading that is corrected', () => {
  const plan = (stringId: string, note: string, offsetCents = 0): StringPlan =>
    ({ stringId, note, lengthMm: 650, material: 'plain-steel', ...(offsetCents ? { offsetCents } : {}) }) as StringPlan;
  const E4 = 329.6276;
  const A4 = 440;
  const stored = (more: Partial<ReadingRecord> = {}): ReadingRecord => ({
    ...(typedReading(-4.2) as ReadingRecord),
    id: 'r',
    version: 2,
    zoneMin: 60,
    atMs: 1e12,
    instrumentId: 'x',
    stringId: 's1',
    purpose: 'as-found',
    source: 'microphone',
    // A string that belongs 12 cents above its note.
    targetHz: at(12, E4),
    frequencyHz: at(12 - 4.2, E4),
    sigmaCents: 0.05,
    snrDb: 40,
    glideCents: 1,
    inharmonicity: 1e-5,
    partials: [{ n: 1, frequencyHz: 329, sigmaHz: 0.01 }],
    ...more,
  });
  const life = (readings: Partial<ReadingRecord>[] = []): Pick<InstrumentLife, 'strings'> =>
    ({
      strings: [
        { plan: plan('s1', 'E4', 12), readings },
        { plan: plan('s2', 'A4'), readings: [] },
      ],
    }) as unknown as Pick<InstrumentLife, 'strings'>;
  const correct = (
    r: ReadingRecord,
    change: Partial<Parameters<typeof correctReading>[1]>,
    sure = false,
    of = life(),
  ) => correctReading(r, { plan: plan('s1', 'E4', 12), text: figureText(r), atMs: r.atMs, ...change }, of, 2e12, sure);

  test('a figure that is typed has the doubt of one, and nothing of the sound; its string keeps its own offset', () => {
    const as = correct(stored({ slip: true, arrival: 'from below' }), { text: '−6.3' });
    expect(as).toMatchObject({
      is: 'corrected',
      draft: { source: 'typed', cents: -6.3, sigmaCents: 1, targetHz: at(12, E4), supersedes: 'r', partials: [] },
    });
    const { draft } = as as Extract<typeof as, { draft: unknown }>;
    for (const gone of ['snrDb', 'glideCents', 'inharmonicity', 'slip', 'id']) expect(draft).not.toHaveProperty(gone);
    expect(draft).toMatchObject({ frequencyHz: expect.closeTo(at(12 - 6.3, E4), 6), arrival: 'from below' });
  });

  test('at another time it is the same sound, with all that is known of it', () => {
    expect(correct(stored({ slip: true, leadCents: 2 }), { atMs: 1e12 - MINUTE })).toMatchObject({
      is: 'corrected',
      draft: {
        source: 'microphone',
        cents: -4.2,
        sigmaCents: 0.05,
        snrDb: 40,
        slip: true,
        leadCents: 2,
        atMs: 1e12 - MINUTE,
      },
    });
    expect(correct(stored(), { atMs: 2e12 + 1 })).toEqual({ is: 'refused', message: 'That is in the future.' });
    expect(correct(stored(), { atMs: -1 }).is).toBe('refused');
  });

  test('of another string the same sound counts from where that one belongs, and is asked about where it stands far from it', () => {
    const other = { plan: plan('s2', 'A4') };
    const asked = correct(stored({ leadCents: 2, slip: true }), other);
    expect(asked).toMatchObject({
      is: 'question',
      message: expect.stringContaining('492 cents below A4'),
      draft: { stringId: 's2', targetHz: A4, cents: expect.closeTo(-492.2, 1) },
    });
    const sure = correct(stored({ leadCents: 2, slip: true }), other, true);
    expect(sure.is).toBe('corrected');
    expect((sure as { draft: object }).draft).not.toHaveProperty('leadCents');
    // A figure that is typed for it counts from there too.
    expect(correct(stored(), { ...other, text: '5' })).toMatchObject({
      is: 'corrected',
      draft: { cents: 5, targetHz: A4 },
    });
    expect(correct(stored(), { plan: plan('s2', 'B5') }, true)).toMatchObject({
      is: 'refused',
      message: expect.stringContaining('too far'),
    });
  });

  test('it is asked about by where the string was before it, not by itself', () => {
    const before = life([
      { id: 'a', atMs: 1e12 - 1e6, cents: -150 },
      { id: 'r', atMs: 1e12, cents: -4.2 },
    ]);
    expect(correct(stored(), { text: '-155' }, false, before).is).toBe('corrected');
    expect(correct(stored(), { text: '-45' }, false, before)).toMatchObject({
      is: 'question',
      message: expect.stringContaining('105 cents above'),
    });
    expect(correct(stored(), { text: '-45' }, true, before).is).toBe('corrected');
  });
});
