import {
  carryTo,
  chanceWhenTuned,
  fitSettling,
  SETTLING_PRIORS,
  type SettlingEvent,
  type SettlingMaterial,
} from '../settling';
import { READY, readyAfterMin } from './ready';

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

test('ready is when the chance to hold, tuned then, first reaches what counts as holding: not earlier, hardly later', () => {
  expect(READY).toBe(0.85);
  const fit = fitAt('plain-nylon', 60);
  const wait = readyAfterMin(fit, WISH)!;
  const chanceAfter = (min: number) =>
    chanceWhenTuned(carryTo(fit, fit.nowMin + min), WISH.holdMin, WISH.toleranceCents);
  expect(wait).toBeGreaterThan(10);
  expect(chanceAfter(wait)).toBeGreaterThanOrEqual(READY);
  expect(chanceAfter(wait / 1.07)).toBeLessThan(READY);
});

test('a settled string is ready now; one that falls for weeks is not said to be ready at any time', () => {
  expect(readyAfterMin(fitAt('plain-steel', 40_000), WISH)).toBe(0);
  expect(readyAfterMin(fitAt('plain-nylon', 60), { holdMin: 2880, toleranceCents: 0.3 })).toBeNull();
  // A longer time to hold asks for a longer wait.
  const fit = fitAt('plain-nylon', 60);
  expect(readyAfterMin(fit, { ...WISH, holdMin: 240 })!).toBeGreaterThan(readyAfterMin(fit, WISH)!);
});
