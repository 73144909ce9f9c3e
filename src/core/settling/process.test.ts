import fc from 'fast-check';
import { Matrix, inverse } from 'ml-matrix';
import { carryTo } from './carry';
import { fitSettling } from './fit';
import { chanceToStay, fallAhead, mixtureMean, mixtureMoments, offsetNow, standAhead } from './forecast';
import type { SettlingEvent } from './history';
import { BACK, keptOver, OFFSET, SLOPE, STATES, stepState, WANDER, WARMTH } from './process';
import { fallWithoutHands, gainOfRound } from './without-hands';

const reads = (...list: [number, number][]): SettlingEvent[] => list.map(([t, cents]) => ({ t, kind: 'read', cents }));
const NYLON = [{ t: 0, kind: 'retune' as const }, ...reads([1, -8], [3, -30], [8, -70])];

test('a step is the Kalman prediction of its law: F P F plus noise, for any state', () => {
  const figure = fc.double({ min: -3, max: 3, noNaN: true });
  fc.assert(
    fc.property(
      fc.array(figure, { minLength: 30, maxLength: 30 }),
      fc.double({ min: 0.1, max: 900, noNaN: true }),
      (v, dt) => {
        const root = new Matrix(STATES, STATES);
        for (let i = 0; i < STATES * STATES; i++) root.set(Math.floor(i / STATES), i % STATES, v[i]!);
        const P = root.mmul(root.transpose());
        const x = v.slice(25);
        const step = { kept: keptOver(dt), du: dt / 40, frictionMean: 0.3, frictionSd: 0.1, q: 0.2, wanderSd: 1.1 };
        const F = Matrix.eye(STATES);
        F.set(OFFSET, SLOPE, -step.du);
        F.set(WANDER, WANDER, step.kept.wander);
        F.set(BACK, BACK, step.kept.back);
        const Q = Matrix.zeros(STATES, STATES);
        Q.set(OFFSET, OFFSET, (0.2 * step.du ** 3) / 3 + 0.0625 * Math.min(2, step.du) + 0.01);
        Q.set(OFFSET, SLOPE, -0.1 * step.du ** 2);
        Q.set(SLOPE, OFFSET, -0.1 * step.du ** 2);
        Q.set(SLOPE, SLOPE, 0.2 * step.du);
        Q.set(WANDER, WANDER, 1.21 * (1 - step.kept.wander ** 2));
        const mean = Float64Array.from(x);
        const cov = Float64Array.from(P.to1DArray());
        stepState(mean, cov, step);
        const wanted = F.mmul(P).mmul(F.transpose()).add(Q).to1DArray();
        wanted.forEach((w, i) => expect(cov[i]).toBeCloseTo(w, 6));
        const moved = F.mmul(Matrix.columnVector(x)).to1DArray();
        expect(mean[OFFSET]).toBeCloseTo(moved[OFFSET]! - 0.3, 9);
        for (const i of [SLOPE, WARMTH, WANDER, BACK]) expect(mean[i]).toBeCloseTo(moved[i]!, 9);
      },
    ),
  );
});

test('readings update the state as a plain Kalman filter does', () => {
  const fit = (list: SettlingEvent[]) => fitSettling({ material: 'wound-steel', events: list }, list.at(-1)!.t);
  const before = fit([{ t: 0, kind: 'retune' }, ...reads([5, -1])]);
  const then = carryTo(before, 45);
  const after = fit([{ t: 0, kind: 'retune' }, ...reads([5, -1], [45, -2.2])]);
  for (const c of after.components) {
    const was = then.components.find(
      (o) => JSON.stringify({ ...o.hypothesis, weight: 0 }) === JSON.stringify({ ...c.hypothesis, weight: 0 }),
    );
    if (!was || was.q !== c.q) continue;
    const P = new Matrix(STATES, STATES);
    for (let i = 0; i < STATES * STATES; i++) P.set(Math.floor(i / STATES), i % STATES, was.cov[i]!);
    const H = new Matrix([[1, 0, 0, 1, 1]]);
    const S = H.mmul(P).mmul(H.transpose()).add(0.49);
    const K = P.mmul(H.transpose()).mmul(inverse(S));
    const v = -2.2 - (was.mean[OFFSET]! + was.mean[WANDER]! + was.mean[BACK]!);
    for (let i = 0; i < STATES; i++) expect(c.mean[i]).toBeCloseTo(was.mean[i]! + K.get(i, 0) * v, 6);
  }
});

test.each<[string, SettlingEvent[]]>([
  ['left alone', []],
  ['pulled', [{ t: 10, kind: 'stretch' }, ...reads([11, -110])]],
  ['warmed', [{ t: 10, kind: 'warm', minutes: 6 }, ...reads([17, -120], [60, -115])]],
  ['played', [{ t: 10, kind: 'play', minutes: 30 }, ...reads([41, -120])]],
])('%s: carried to a time it is the fit at that time, and what comes in two steps comes in one', (_, hands) => {
  const events = [...NYLON, ...hands];
  const at = (min: number) => fitSettling({ material: 'plain-nylon', events }, min);
  const end = events.at(-1)!.t;
  const carried = carryTo(at(end), end + 200);
  const again = at(end + 200);
  expect(offsetNow(carried).cents).toBeCloseTo(offsetNow(again).cents, 6);
  expect(offsetNow(carried).sigmaCents).toBeCloseTo(offsetNow(again).sigmaCents, 6);
  const whole = mixtureMean(fallAhead(at(end), 500));
  const parts = mixtureMean(fallAhead(at(end), 200)) + mixtureMean(fallAhead(carried, 300));
  expect(parts).toBeCloseTo(whole, 6);
  // Where it will be is where it is, less what comes; the doubt of both together is no less than that of where it is.
  const stand = mixtureMoments(standAhead(at(end), 500));
  expect(stand.mean).toBeCloseTo(mixtureMoments(standAhead(at(end), 0)).mean - whole, 6);
  expect(mixtureMoments(standAhead(at(end), 1)).sd).toBeCloseTo(offsetNow(at(end)).sigmaCents, 0);
});

describe('hands', () => {
  /** Nylon, eight rounds: each drop smaller, brought up after each; then twenty minutes untouched at −14. */
  const rounds = [30, 20, 13, 9, 6, 4, 1.5, 0].flatMap((drop, k): SettlingEvent[] => {
    const t = 10 + 3 * k;
    return [
      { t: t + 0.9, kind: 'stretch' },
      ...reads([t + 1, -drop]),
      { t: t + 2, kind: 'retune' },
      ...reads([t + 2.1, 0]),
    ];
  });
  const story = [...NYLON, { t: 9, kind: 'retune' as const }, ...reads([9.1, 0]), ...rounds];
  const end = story.at(-1)!.t;
  const fit = fitSettling({ material: 'plain-nylon', events: story }, end);
  const unheard = (of: SettlingEvent[]) =>
    of.map((e): SettlingEvent => (e.kind === 'read' ? e : { t: e.t, kind: 'retune' }));
  const asRetuned = fitSettling({ material: 'plain-nylon', events: unheard(story) }, end);

  test('a string whose drops have run out is not foretold as if nobody had pulled it', () => {
    const told = mixtureMoments(fallAhead(fit, 20));
    expect(told.mean).toBeLessThan(0.85 * mixtureMean(fallAhead(asRetuned, 20)));
    expect(Math.abs(told.mean - 14)).toBeLessThan(1.7 * told.sd);
    expect(fallWithoutHands(fit, 20)).toBeGreaterThan(told.mean);
    // The curve begins at the last reading within its error.
    expect(Math.abs(offsetNow(fit).cents)).toBeLessThan(1);
    expect(chanceToStay(fit, 120, 60)).toBeGreaterThan(chanceToStay(fit, 120, 3));
  });

  test('another round spares what it ages, and one that drops nothing spares nothing', () => {
    expect(gainOfRound(fit, 0, 120)).toBeCloseTo(0, 6);
    const small = gainOfRound(fit, 1, 120);
    const large = gainOfRound(fit, 8, 120);
    expect(small).toBeGreaterThan(0);
    expect(large).toBeGreaterThan(small);
    expect(large).toBeLessThan(mixtureMean(fallAhead(fit, 120)));
  });

  test('what is read while it is still warm comes back in part', () => {
    const warm: SettlingEvent[] = [...NYLON, { t: 9, kind: 'warm', minutes: 5 }, ...reads([15, -100])];
    const hot = fitSettling({ material: 'plain-nylon', events: warm }, 15);
    const cold = fitSettling({ material: 'plain-nylon', events: unheard(warm) }, 15);
    // It comes back as it cools, which a string that was turned does not.
    expect(mixtureMean(fallAhead(hot, 30))).toBeLessThan(mixtureMean(fallAhead(cold, 30)) - 3);
  });
});
