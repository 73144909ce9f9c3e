import {
  carryTo,
  chanceWhenTuned,
  fitSettling,
  offsetNow,
  SETTLING_PRIORS,
  type SettlingEvent,
  type SettlingMaterial,
} from '../settling';
import { READY, readyAfterMin as readyFrom } from './ready';

type Fit = ReturnType<typeof fitAt>;
const readyAfterMin = (fit: Fit, wish: typeof WISH, till: 'left alone' | 'kept in tune') =>
  readyFrom(fit, fit.nowMin, wish, till);
const WISH = { holdMin: 90, toleranceCents: 3 };

/** A string that falls by the law of its material, read twice. @param ageMin how old it is, min */
function fitAt(material: SettlingMaterial, ageMin: number) {
  const { slopeCents, tauMin } = SETTLING_PRIORS[material];
  const fallen = (t: number) => slopeCents * Math.log1p(t / tauMin);
  const times = [0.5, 0.7, 0.85, 1].map((share) => share * ageMin);
  const events: SettlingEvent[] = [
    { t: 0, kind: 'retune' },
    ...times.map((t): SettlingEvent => ({ t, kind: 'read', cents: -fallen(t), sigmaCents: 0.3, source: 'heard' })),
  ];
  return fitSettling({ material, events }, ageMin);
}

/** Chance to hold if it is left alone for so long, min, and then brought up by as much as it stands flat. */
function chanceAfter(fit: ReturnType<typeof fitAt>, waitMin: number): number {
  const then = carryTo(fit, fit.nowMin + waitMin);
  const up = { t: then.nowMin, sizeCents: -offsetNow(then).cents };
  return chanceWhenTuned({ ...then, retunes: [...then.retunes, up] }, WISH.holdMin, WISH.toleranceCents);
}

test('ready is when the chance to hold, brought up then by all that it has fallen, first is enough: not earlier, hardly later', () => {
  expect(READY).toBe(0.85);
  const fit = fitAt('plain-steel', 30);
  const wait = readyAfterMin(fit, WISH, 'left alone')!;
  expect(wait).toBeGreaterThan(10);
  expect(chanceAfter(fit, wait)).toBeGreaterThanOrEqual(0.8);
  expect(chanceAfter(fit, wait / 1.07)).toBeLessThan(0.8);
  // A longer time to hold asks for a longer wait.
  expect(readyAfterMin(fit, { ...WISH, holdMin: 240 }, 'left alone')!).toBeGreaterThan(wait);
});

test('a settled string is ready now; one that has much to be brought up by one hand is not said to be ready at any time', () => {
  expect(readyAfterMin(fitAt('plain-steel', 40_000), WISH, 'left alone')).toBe(0);
  const nylon = fitAt('plain-nylon', 60);
  expect(readyAfterMin(nylon, WISH, 'left alone')).toBeNull();
  // Kept in tune it is ready within days.
  expect(readyAfterMin(nylon, WISH, 'kept in tune')!).toBeLessThan(3 * 1440);
  expect(readyAfterMin(nylon, WISH, 'kept in tune')!).toBeGreaterThan(60);
  // It creeps slowly enough after a week: what is brought up then settles anew.
  expect(chanceWhenTuned(carryTo(nylon, nylon.nowMin + 7 * 1440), WISH.holdMin, WISH.toleranceCents)).toBeGreaterThan(
    READY,
  );
});

test('asked again later it is the same moment, and now once that is past', () => {
  const fit = fitAt('plain-steel', 30);
  const first = readyAfterMin(fit, WISH, 'kept in tune')!;
  expect(readyFrom(fit, fit.nowMin + 10, WISH, 'kept in tune')! + 10).toBeCloseTo(first, 9);
  expect(readyFrom(fit, fit.nowMin + first + 1, WISH, 'kept in tune')).toBe(0);
  // Left alone for a fortnight, one hand has more to bring up than holds.
  const soon = readyAfterMin(fit, { ...WISH, toleranceCents: 2 }, 'left alone');
  const late = readyFrom(fit, fit.nowMin + 14 * 1440, { ...WISH, toleranceCents: 2 }, 'left alone');
  expect([soon === null, late === null]).toEqual([false, true]);
});
