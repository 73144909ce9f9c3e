import {
  betweenLimitsCents,
  changeWords,
  frictionFigure,
  lubricantLasts,
  muThetaOf,
  trickWords,
  type LubricantPoint,
} from './index';
import { holdOf } from './limits';

test('friction between both limits: figure, its error, where it stands, what a bend costs', () => {
  const f = frictionFigure(-10, 6, 0.5, 0.2);
  expect(f.cents).toBe(16);
  // Two pairs: sqrt(2 / 2) of one reading's error.
  expect(f.sdCents).toBeCloseTo(0.5, 6);
  // mu theta = H ln 2 / (1200 beta), beta = 0.2 / 1.2.
  expect(f.muTheta).toBeCloseTo((16 * Math.LN2) / (1200 * (0.2 / 1.2)), 6);
  expect(f.muThetaSd / f.muTheta).toBeCloseTo(0.5 / 16, 6);
  // Six below its sharp limit of sixteen: a quarter above the middle.
  expect(f.at).toBeCloseTo(0.25, 6);
  // A whole tone is enough to take all of it; from the sharp limit, all sixteen.
  expect(f.bendCents).toBeCloseTo(-10, 1);
  expect(f.worstBendCents).toBeCloseTo(-16, 1);
  // What binds harder than the bend can pull slides less.
  expect(frictionFigure(-60, 60, 0.5, 0.2).worstBendCents).toBeGreaterThan(-120);
  expect(frictionFigure(3, -1, 0.5).cents).toBe(0);
  expect(muThetaOf(16, 0.2)).toBeCloseTo(f.muTheta, 9);
  expect(frictionFigure(0, 0, 0.5).at).toBe(0);
  for (const aside of [0.08, 0.3]) expect(betweenLimitsCents(holdOf(16, aside), aside)).toBeCloseTo(16, 9);
});

test.each<[number, number, RegExp]>([
  [-0.5, 0.6, /No trick is needed/],
  [-1, 14, /is where bends leave it/],
  [-14, 1, /the first bend drops it/],
  [-8, 7, /between its limits/],
  // At three quarters of the way exactly it is between them; free is within two cents and the doubt of it.
  [-4, 12, /between its limits/],
  [-12, 4, /between its limits/],
  [-1.1, 1.2, /No trick is needed/],
  [-0.2, 2.3, /bends leave it/],
])('flat %p, sharp %p: what follows for the tuning', (flat, sharp, words) =>
  expect(trickWords(frictionFigure(flat, sharp, 0.4))).toMatch(words),
);

test('how long a lubricant lasts, from figures at several ages, and nothing where they do not bound it', () => {
  const at = (days: number, half: number, noise = 0): LubricantPoint => ({
    days,
    cents: 3 + 11 * (1 - 2 ** (-days / half)) + noise,
    sdCents: 0.5,
    beforeCents: 14,
    afterCents: 3,
  });
  const lasts = lubricantLasts([at(7, 21, 0.5), at(21, 21, -0.8), at(40, 21, 0.6), at(60, 21)])!;
  expect(lasts.days).toBeGreaterThan(14);
  expect(lasts.days).toBeLessThan(31);
  expect(lasts.low).toBeLessThan(21);
  expect(lasts.high).toBeGreaterThan(21);
  expect(lubricantLasts([at(7, 21), at(21, 21)])).toBeUndefined();
  expect(lubricantLasts([at(7, 21), at(21, 21), at(40, 21)])).toBeDefined();
  // The day of the lubrication, and a slot that gained no three cents, tell nothing.
  expect(lubricantLasts([at(0, 21), at(21, 21), at(40, 21)])).toBeUndefined();
  const little = (p: LubricantPoint) => ({ ...p, cents: p.cents / 4, beforeCents: 3.5, afterCents: 0.6 });
  expect(lubricantLasts([at(7, 21), at(21, 21), little(at(40, 21))])).toBeUndefined();
  // What a figure varies by from day to day counts beside its error: a sure one does not outweigh it.
  const spread = (sdCents: number) => {
    const l = lubricantLasts([at(7, 21), at(21, 21), at(40, 21)].map((p) => ({ ...p, sdCents })))!;
    return l.high / l.low;
  };
  expect(spread(0.01)).toBeGreaterThan(1.8);
  expect(spread(2)).toBeGreaterThan(spread(0.01));
  // It goes within hours: how fast is not known either.
  expect(lubricantLasts([at(7, 0.5), at(21, 0.5), at(40, 0.5)])).toBeUndefined();
  // It has hardly begun to go: how long it lasts is not known.
  expect(lubricantLasts([at(1, 4000), at(2, 4000), at(3, 4000)])).toBeUndefined();
  // Nothing was gained: nothing can last.
  expect(lubricantLasts([at(7, 21), at(21, 21), at(40, 21)].map((p) => ({ ...p, beforeCents: 4 })))).toBeUndefined();
});

test('what a lubrication changed is said with its doubt; as much as its doubt, it may be nothing; before one nothing is said', () => {
  const at = (cents: number) => ({ atMs: 0, figure: frictionFigure(0, cents, 0.5) });
  expect(changeWords({ before: at(12), figures: [at(12), at(4)] })).toBe(' Lubricated: less by 8.0 ±1.2 cents.');
  expect(changeWords({ before: at(4), figures: [at(9)] })).toBe(' Lubricated: more by 5.0 ±1.2 cents.');
  expect([1.3, 1.5].map((gone) => changeWords({ before: at(6), figures: [at(6 - gone)] }).includes('nothing'))).toEqual(
    [true, false],
  );
  expect(changeWords({ before: undefined, figures: [at(4)] })).toBe('');
  expect(changeWords({ before: at(4), figures: [] })).toBe('');
});
