import fc from 'fast-check';
import { fitSettling } from './fit';
import { chanceToHold, fallAhead, mixtureBelow, mixtureMean, mixtureQuantile, type Mixture } from './forecast';
import { retunesOf } from './history';
import { MATERIAL_CODES, SETTLING_PRIORS } from './materials';
import { nextCheckMin } from './next-check';
import { creepClock, frictionBetween } from './process';
import { creepShapes } from './shapes';
import { leapOf } from './slip';

test.each(MATERIAL_CODES)(
  '%s: every creep shape rises from nothing and means the same slope after a day',
  (material) => {
    const prior = SETTLING_PRIORS[material];
    const shapes = creepShapes(prior);
    expect(shapes.reduce((s, c) => s + c.weight, 0)).toBeCloseTo(1, 9);
    for (const { f } of shapes) {
      expect(f(0)).toBe(0);
      expect(f(1440)).toBeCloseTo(Math.log1p(1440 / prior.tauMin), 9);
      for (const t of [1, 10, 100, 1000, 10000]) expect(f(2 * t)).toBeGreaterThan(f(t));
    }
  },
);

test('the size of a bring-up is known only from a fresh as-found reading, and never for the first', () => {
  const retunes = retunesOf([
    { t: 0, kind: 'retune' },
    { t: 10, kind: 'read', cents: -12 },
    { t: 11, kind: 'retune' },
    { t: 30, kind: 'read', cents: -8 },
    { t: 40, kind: 'retune' },
    { t: 50, kind: 'read', cents: 6 },
    { t: 51, kind: 'retune' },
    { t: 60, kind: 'read', cents: -900 },
    { t: 61, kind: 'retune' },
  ]);
  expect(retunes.map((r) => r.sizeCents)).toEqual([0, 12, 0, 0, 300]);
});

test('bring-ups renew creep only under the hypothesis that they do', () => {
  const shape = creepShapes(SETTLING_PRIORS['plain-nylon'])[1]!;
  const retunes = [
    { t: 0, sizeCents: 0 },
    { t: 100, sizeCents: 200 },
  ];
  expect(creepClock(shape, 0, retunes, 150)).toBe(shape.f(150));
  expect(creepClock(shape, 1, retunes, 150)).toBeCloseTo(shape.f(150) + (200 / 866) * shape.f(50), 9);
  expect(creepClock(shape, 1, retunes, 90)).toBe(shape.f(90));
});

test('friction after a bring-up adds up to its whole over any division of the time', () => {
  const retunes = [{ t: 5, sizeCents: 20 }];
  const whole = frictionBetween(retunes, 5, 1000).mean;
  expect(whole).toBeCloseTo(0.3 + 0.02 * 20, 6);
  const parts = frictionBetween(retunes, 5, 6).mean + frictionBetween(retunes, 6, 1000).mean;
  expect(parts).toBeCloseTo(whole, 9);
  expect(frictionBetween(retunes, 1, 4)).toEqual({ mean: 0, sd: 0 });
});

const mixtures = fc
  .array(
    fc.record({
      w: fc.double({ min: 0.05, max: 1, noNaN: true }),
      mean: fc.double({ min: -40, max: 40, noNaN: true }),
      sd: fc.double({ min: 0.1, max: 15, noNaN: true }),
    }),
    { minLength: 1, maxLength: 5 },
  )
  .map((parts): Mixture => {
    const total = parts.reduce((s, p) => s + p.w, 0);
    return { share: parts.map((p) => p.w / total), mean: parts.map((p) => p.mean), sd: parts.map((p) => p.sd) };
  });

test('a mixture’s quantiles undo its distribution, and its mean lies within it', () => {
  fc.assert(
    fc.property(mixtures, fc.double({ min: 0.02, max: 0.98, noNaN: true }), (mix, p) => {
      expect(mixtureBelow(mix, mixtureQuantile(mix, p))).toBeCloseTo(p, 2);
      expect(mixtureMean(mix)).toBeGreaterThanOrEqual(Math.min(...mix.mean) - 1e-9);
      expect(mixtureMean(mix)).toBeLessThanOrEqual(Math.max(...mix.mean) + 1e-9);
    }),
  );
});

describe('a nylon string half a day old', () => {
  const fit = fitSettling(
    {
      material: 'plain-nylon',
      events: [
        { t: 0, kind: 'retune' },
        { t: 20, kind: 'read', cents: -60 },
        { t: 21, kind: 'retune' },
        { t: 22, kind: 'read', cents: 0 },
        { t: 300, kind: 'read', cents: -55 },
        { t: 301, kind: 'retune' },
        { t: 302, kind: 'read', cents: 0 },
      ],
    },
    720,
  );

  test('falls further the longer it is left, and is less surely known', () => {
    const spread = (h: number) => mixtureQuantile(fallAhead(fit, h), 0.95) - mixtureQuantile(fallAhead(fit, h), 0.05);
    const horizons = [10, 60, 600, 6000];
    for (const [i, h] of horizons.slice(1).entries()) {
      expect(mixtureMean(fallAhead(fit, h))).toBeGreaterThan(mixtureMean(fallAhead(fit, horizons[i]!)));
      expect(spread(h)).toBeGreaterThan(spread(horizons[i]!));
    }
  });

  test('holds a wide tolerance more surely than a narrow one, and best from a little above', () => {
    expect(chanceToHold(fit, 90, 10, 0)).toBeGreaterThan(chanceToHold(fit, 90, 3, 0));
    const fall = mixtureMean(fallAhead(fit, 600));
    expect(chanceToHold(fit, 600, 5, fall)).toBeGreaterThan(chanceToHold(fit, 600, 5, -fall));
  });

  test('the careful come back sooner; nobody sooner than in two minutes', () => {
    const rule = { toleranceCents: 5, offsetCents: 0, lastIntervalMin: 300, confidence: 0.9 };
    expect(nextCheckMin(fit, { ...rule, confidence: 0.97 })).toBeLessThanOrEqual(nextCheckMin(fit, rule));
    expect(nextCheckMin(fit, { ...rule, toleranceCents: 0.01 })).toBe(2);
    expect(nextCheckMin(fit, { ...rule, toleranceCents: 500, lastIntervalMin: 10 })).toBe(60);
  });
});

test('a slip stands out against the others and against what was expected', () => {
  const own = { innovationCents: -9, varianceCents2: 1 };
  const calm = [0.3, -0.4, 0.1].map((v) => ({ innovationCents: v, varianceCents2: 1 }));
  expect(leapOf(own, calm)).toBeCloseTo(-9.1);
  expect(leapOf({ ...own, innovationCents: 9 }, calm)).toBeCloseTo(8.9);
  expect(leapOf({ ...own, varianceCents2: 16 }, calm)).toBeUndefined();
  expect(leapOf({ ...own, innovationCents: -2 }, calm)).toBeUndefined();
  const alike = calm.map((c) => ({ ...c, innovationCents: -8 }));
  expect(leapOf(own, alike)).toBeUndefined();
});
