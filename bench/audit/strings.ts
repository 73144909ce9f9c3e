/** Strings of a second world: sixteen relaxations, and every bring-up begins its own. */
import { SETTLING_PRIORS } from '../../src/core/settling';
import { SETTLES_AS, type StringMaterial } from '../../src/core/strings';
import type { Random } from '../../src/core/simulate';
import { logBetween, type TrueString } from '../forecast/truth';

const RELAXATIONS = 16;
/** Half the speed of sound in cents: a bring-up of so much is a strain like the first one. */
const FIRST_CENTS = 866;

/**
 * A string as a sum of relaxations, from half a minute to two months, whose weights are drawn by lot. A bring-up strains it as the
 * first one did, by its share; and nut, post and windings give back some of it within the half hour.
 * @param olderMin how much older it is than the clock that it is asked by
 */
export function relaxing(
  r: Random,
  material: StringMaterial,
  endMin: number,
  olderMin: number,
  room: (t: number) => number,
): TrueString {
  const p = SETTLING_PRIORS[SETTLES_AS[material]];
  const tilt = r.between(-0.05, 0.05);
  const parts = Array.from({ length: RELAXATIONS }, (_, k) => ({
    min: 0.5 * 1.98 ** k,
    weight: r.between(0.5, 1.5) * Math.exp(tilt * (k - 8)),
  }));
  const shape = (t: number) => parts.reduce((sum, x) => sum + x.weight * (1 - Math.exp(-Math.max(0, t) / x.min)), 0);
  const amplitude = (p.slopeCents * Math.exp(p.slopeSpread * r.normal()) * Math.log1p(1440 / p.tauMin)) / shape(1440);
  const renewal = r.between(0.5, 3);
  const given = { share: r.between(0, 0.12), min: logBetween(r, 1, 20) };
  const warmth = p.tempMean + p.tempSd * r.normal();
  const grid = Math.ceil(endMin / 10) + 2;
  const wander = new Float64Array(grid);
  const wanderSd = p.wanderCents * r.between(0.2, 1);
  const forget = Math.exp(-10 / logBetween(r, 150, 900));
  for (let i = 1; i < grid; i++)
    wander[i] = wander[i - 1]! * forget + wanderSd * Math.sqrt(1 - forget * forget) * r.normal();
  const wandered = (t: number) => {
    const i = Math.max(0, Math.min(grid - 2, Math.floor(t / 10)));
    return wander[i]! + (wander[i + 1]! - wander[i]!) * (t / 10 - i);
  };
  const ups: { t: number; size: number }[] = [];
  const state = (t: number) => {
    let fallen = amplitude * shape(t + olderMin);
    for (const { t: at, size } of ups)
      if (at <= t)
        fallen +=
          amplitude * renewal * (size / FIRST_CENTS) * shape(t - at) +
          size * given.share * (1 - Math.exp(-(t - at) / given.min));
    return -fallen + warmth * (room(t) - 20) + wandered(t);
  };
  let base = -state(0.01) + r.normal();
  return {
    centsAt: (t) => state(t) + base,
    tempAt: room,
    centsPerC: warmth,
    bringUp(t) {
      const flat = state(t) + base;
      ups.push({ t, size: Math.min(150, Math.max(0, -flat)) });
      base = -state(t) + 0.8 * r.normal();
    },
  };
}
