import fc from 'fast-check';
import {
  carryTo,
  chanceToHold,
  fallAhead,
  fitSettling,
  leapOf,
  MATERIAL_CODES,
  mixtureMean,
  mixtureQuantile,
  nextCheckMin,
  offsetNow,
  totalFall,
  type SettlingEvent,
  type StringHistory,
} from '.';

/** A string that falls by the logarithm of its age, read and brought up at the given ages. */
function logarithmic(slope: number, agesMin: number[]): SettlingEvent[] {
  const events: SettlingEvent[] = [{ t: 0, kind: 'retune' }];
  let raisedAt = 0;
  for (const t of agesMin) {
    const fallen = slope * Math.log((1 + t) / (1 + raisedAt));
    events.push({ t, kind: 'read', cents: -fallen });
    if (fallen > 3) {
      events.push({ t: t + 0.2, kind: 'retune' }, { t: t + 0.4, kind: 'read', cents: 0 });
      raisedAt = t + 0.2;
    }
  }
  return events;
}
const AGES = [2, 5, 9, 15, 25, 40, 60, 90, 120];
const nylon: StringHistory = { material: 'plain-nylon', events: logarithmic(40, AGES) };

test('a logarithmic fall is foretold within its interval', () => {
  const fit = fitSettling(nylon, 125);
  for (const h of [60, 300, 1440]) {
    const truth = 40 * Math.log((126 + h) / 126);
    const mix = fallAhead(fit, h);
    expect(Math.abs(mixtureMean(mix) - truth)).toBeLessThan(0.25 * truth + 1);
    expect(truth).toBeGreaterThan(mixtureQuantile(mix, 0.02));
    expect(truth).toBeLessThan(mixtureQuantile(mix, 0.98));
  }
});

test('one figure from another instrument does not bend the forecast', () => {
  const wild = nylon.events.map((e, i) => (i === 8 && e.kind === 'read' ? { ...e, cents: e.cents - 300 } : e));
  const plain = mixtureMean(fallAhead(fitSettling(nylon, 125), 300));
  const bent = mixtureMean(fallAhead(fitSettling({ ...nylon, events: wild }, 125), 300));
  expect(Math.abs(bent - plain)).toBeLessThan(0.25 * plain);
});

test('steel holds sooner than nylon, and old nylon sooner than fresh', () => {
  const steel = fitSettling({ material: 'plain-steel', events: logarithmic(1.5, AGES) }, 125);
  const fresh = fitSettling(nylon, 125);
  const old = fitSettling({ ...nylon, events: logarithmic(40, [...AGES, 600, 1440, 5000, 9000]) }, 9100);
  const hold = (f: typeof steel) => chanceToHold(f, 90, 3, 0);
  expect(hold(steel)).toBeGreaterThan(0.85);
  expect(hold(fresh)).toBeLessThan(0.1);
  expect(hold(old)).toBeGreaterThan(hold(fresh));
});

test('the next check comes sooner for a narrower tolerance, and never later than six intervals', () => {
  const fit = fitSettling(nylon, 125);
  const rule = { toleranceCents: 3, offsetCents: 0, lastIntervalMin: 30, confidence: 0.9 };
  const three = nextCheckMin(fit, rule);
  expect(nextCheckMin(fit, { ...rule, toleranceCents: 10 })).toBeGreaterThan(three);
  expect(nextCheckMin(fit, { ...rule, confidence: 0.97 })).toBeLessThanOrEqual(three);
  expect(nextCheckMin(fit, { ...rule, toleranceCents: 500 })).toBe(180);
});

test('a slip is a drop of one string, not of all', () => {
  const drop = { innovationCents: -9, varianceCents2: 1.5 };
  const still = { innovationCents: 0.3, varianceCents2: 1.5 };
  expect(leapOf(drop, [still, still, still])).toBeCloseTo(-9.3);
  expect(leapOf(drop, [drop, drop, drop])).toBeUndefined();
  expect(leapOf({ innovationCents: -2, varianceCents2: 0.2 }, [still])).toBeUndefined();
});

test('total fall runs through all bring-ups', () => {
  expect(
    totalFall([
      { cents: -2, left: true },
      { cents: -12, left: false },
      { cents: 1, left: true },
      { cents: -4, left: false },
    ]),
  ).toEqual([0, 10, 10, 15]);
});

test('whatever the history, the forecast is finite, ordered, and its chances are chances', () => {
  const event = fc.record({
    gap: fc.double({ min: 0.1, max: 3000, noNaN: true }),
    cents: fc.double({ min: -600, max: 600, noNaN: true }),
    retune: fc.boolean(),
  });
  fc.assert(
    fc.property(fc.constantFrom(...MATERIAL_CODES), fc.array(event, { maxLength: 12 }), (material, list) => {
      let t = 0;
      const events: SettlingEvent[] = [{ t: 0, kind: 'retune' }];
      for (const e of list) {
        t += e.gap;
        events.push(e.retune ? { t, kind: 'retune' } : { t, kind: 'read', cents: e.cents });
      }
      const fit = fitSettling({ material, events }, t + 1);
      const mix = fallAhead(fit, 90);
      const q = [0.05, 0.5, 0.95].map((p) => mixtureQuantile(mix, p));
      expect(q.every(Number.isFinite)).toBe(true);
      expect(q[0]! <= q[1]! && q[1]! <= q[2]!).toBe(true);
      const p = chanceToHold(fit, 90, 3, 0);
      expect(p >= -1e-6 && p <= 1 + 1e-6).toBe(true);
      expect(Number.isFinite(offsetNow(fit).cents)).toBe(true);
    }),
    { numRuns: 25 },
  );
});

test('a string that nobody has looked at for hours stands where the room has put it: more on steel than on nylon, more the longer', () => {
  const added = (material: 'wound-steel' | 'plain-nylon', hours: number) => {
    const events: SettlingEvent[] = [
      { t: 0, kind: 'retune' },
      ...[100, 400, 1000, 3000, 9000].map((t) => ({ t, kind: 'read' as const, cents: -0.2 })),
    ];
    const later = carryTo(fitSettling({ material, events }, 9000), 9000 + 60 * hours);
    const sigma = offsetNow(later).sigmaCents;
    return Math.sqrt(sigma ** 2 - offsetNow({ ...later, readMin: later.nowMin }).sigmaCents ** 2);
  };
  // House: a room of two degrees either way moves wound steel by one to two cents in four hours.
  expect(added('wound-steel', 4)).toBeGreaterThan(0.8);
  expect(added('wound-steel', 4)).toBeLessThan(2);
  expect(added('wound-steel', 1)).toBeLessThan(added('wound-steel', 4));
  expect(added('wound-steel', 0)).toBe(0);
});
