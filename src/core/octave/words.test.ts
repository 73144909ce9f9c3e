import { ageTrend, setupOf, USUAL_SETUP } from '.';
import { adviceFor, direction, growth, sizeOf, toldOf } from './words';
import { DAY } from '../base';
import { movesToMake } from './saddle-move';
import type { Octaves, StringOctave } from './string-octave';

const START = Date.UTC(2026, 0, 1);
/** Monthly passes of a string whose octave goes off by so much a month. */
const grown = (perMonth: number, months = 7) => ({
  agesFromMs: START,
  trend: ageTrend(
    Array.from({ length: months }, (_, m) => ({
      ageDays: 30 * m,
      errorCents: perMonth * m + (m % 2 ? 0.05 : -0.05),
      sigmaCents: 0.1,
    })),
    4,
  ),
});
const now = START + 180 * DAY;

test('a growing error says when it crosses the owner’s limit, with its interval', () => {
  // 0.4 a month for six months is 2.4; 4 is four months off.
  const words = growth(grown(0.4), 4, now);
  const [, likely, soonest, latest] = /in about ([\d.]+) months \(([\d.]+) to ([\d.]+)\)/.exec(words)!;
  expect(Number(likely)).toBeCloseTo(4, 0);
  expect(Number(soonest)).toBeLessThan(Number(latest));
  expect(words).toContain('grows by 0.4 cents a month');
});

test('what is beyond the limit says so; what is far off promises nothing; what does not grow is silent', () => {
  expect(growth(grown(0.9), 4, now)).toContain('is over your limit of 4 cents');
  expect(growth(grown(0.08), 4, now)).not.toContain('in about');
  expect(growth(grown(0), 4, now)).toBe('');
  expect(growth({ trend: undefined, agesFromMs: START }, 4, now)).toBe('');
});

test('moves in words: longer is away from the nut, in mm and in inches', () => {
  expect(`${sizeOf(1.88, 'mm')} ${direction(1.88)}`).toBe('1.9 mm away from the nut');
  expect(`${sizeOf(-0.4, 'mm')} ${direction(-0.4)}`).toBe('0.40 mm towards the nut');
  expect(sizeOf(1.905, 'in')).toBe('.075 in');
});

test('what costs money is said after a second pluck only', () => {
  const worn = {
    last: { errors: { stringCents: 3.2 } },
    verdict: 'string',
    moveMm: 0,
    stale: null,
    trend: undefined,
    agesFromMs: START,
  } as unknown as StringOctave;
  const said = (confirmed: boolean) =>
    adviceFor({ ...worn, confirmed }, { loose: false, setup: USUAL_SETUP }, 'mm', now);
  expect(said(false)).toMatch(/^The string itself may be at fault.*Read it once more/);
  expect(said(false)).not.toContain('Replace');
  expect(said(true)).toMatch(/^The string itself.*Replace it/);
});

test('a move beyond the screw’s travel ends where the screw ends, in what is said, and in what is kept', () => {
  const strings = [{ note: 'A2', stringId: 's1', verdict: 'saddle', moveMm: 1.4, movedMm: 0.5, last: {} }];
  const of = (travelMm: number | null) =>
    ({ strings, loose: false, setup: { ...USUAL_SETUP, travelMm } }) as unknown as Octaves;
  const octaves = of(1);
  const [move] = movesToMake(octaves);
  expect(move).toMatchObject({ stringIds: ['s1'], moveMm: 0.5 });
  expect(toldOf(octaves, [move!], (x) => `${x} mm`)).toMatch(/0\.5 mm .*, where its screw ends$/);
  expect(movesToMake(of(null))[0]!.moveMm).toBe(1.4);
});

test('what its owner says of saddles counts everywhere it is told: the newest, or what is usual', () => {
  const said = (instrumentId: string, limitCents: number) => ({ instrumentId, limitCents, threadMm: 0.7, travelMm: 3 });
  const saddles = [said('x', 2), said('y', 6), said('x', 3)] as never;
  expect(setupOf({ saddles }, 'x')).toMatchObject({ limitCents: 3, threadMm: 0.7 });
  expect(setupOf({ saddles }, 'z')).toEqual({ limitCents: 4, threadMm: 0.5, travelMm: null });
});
