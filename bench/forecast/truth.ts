/**
 * Strings whose true course of creep is none of the estimator's own shapes, with rooms, bring-ups and readings.
 */
import { SETTLING_PRIORS, MATERIAL_CODES, type SettlingEvent, type SettlingMaterial } from '../../src/core/settling';
import { randomFrom, type Random } from '../../src/core/simulate';

export interface ForecastCase {
  id: number;
  /** Which law of creep it obeys. */
  kind: number;
  material: SettlingMaterial;
  events: SettlingEvent[];
  issueMin: number;
  /** True fall from issueMin to issueMin + h, cents, without reading noise. */
  fallAfter: (hMin: number) => number;
}

export const logBetween = (r: Random, a: number, b: number) => a * Math.pow(b / a, r.uniform());

/** Seven laws of creep, each with random constants. */
export function law(kind: number, r: Random): (t: number) => number {
  switch (kind) {
    case 0: {
      const parts = Array.from({ length: 7 }, (_, i) => ({
        T: logBetween(r, 0.5, 2) * Math.pow(6.5, i),
        w: r.between(0.7, 1.3),
      }));
      return (t) => parts.reduce((s, p) => s + p.w * (1 - Math.exp(-t / p.T)), 0);
    }
    case 1: {
      const n = r.between(0.04, 0.12);
      const t0 = logBetween(r, 0.3, 5);
      return (t) => Math.pow(1 + t / t0, n) - 1;
    }
    case 2: {
      const t0 = logBetween(r, 0.3, 6);
      const room = r.between(10, 25);
      return (t) => room * (1 - Math.exp(-Math.log1p(t / t0) / room));
    }
    case 3: {
      const t0 = logBetween(r, 0.5, 5);
      const flow = logBetween(r, 2e-5, 2e-4);
      return (t) => Math.log1p(t / t0) + flow * 8000 * (1 - Math.exp(-t / 8000));
    }
    case 4: {
      const T = logBetween(r, 3000, 30000);
      const p = r.between(0.18, 0.35);
      return (t) => Math.pow(t / (t + T), p);
    }
    case 5: {
      const t0 = logBetween(r, 0.5, 4);
      const t1 = logBetween(r, 60, 600);
      return (t) => 0.75 * Math.log1p(t / t0) + 0.35 * Math.log1p(t / t1);
    }
    default: {
      const t0 = logBetween(r, 0.5, 4);
      return (t) => Math.asinh(t / t0);
    }
  }
}

/** A true string in its room, that can be brought up and read. Times in min since it was strung. */
export interface TrueString {
  /** Where it stands, cents from target, without reading noise. */
  centsAt(t: number): number;
  /** Brought to within a hand's error of its target. */
  bringUp(t: number): void;
  tempAt(t: number): number;
  /** Its answer to warmth, cents per deg C. */
  centsPerC: number;
}

/**
 * A string whose creep follows one of the seven laws, with renewal by bring-ups, friction, a room and wander.
 * @param shared the room of the instrument, deg C by time; one of its own where it is missing
 */
export function trueString(
  r: Random,
  material: SettlingMaterial,
  endMin: number,
  kind: number,
  shared?: (t: number) => number,
): TrueString {
  const p = SETTLING_PRIORS[material];
  const shape = law(kind, r);
  // The same meaning of slope as the table of materials: cents per e-fold of age, averaged over the first day.
  const amplitude = (p.slopeCents * Math.exp(p.slopeSpread * r.normal()) * Math.log1p(1440 / p.tauMin)) / shape(1440);
  const renewal = r.uniform() < 0.7 ? 0 : r.between(0.2, 1.3);
  const temp = p.tempMean + p.tempSd * r.normal();
  const swing = r.between(0.2, 1.6);
  const phase = r.uniform() * 2 * Math.PI;
  // Room: a day's swing and a slow walk; wander: an Ornstein-Uhlenbeck walk, both on a 10-min grid.
  const grid = Math.ceil(endMin / 10) + 2;
  const room = new Float64Array(grid);
  const wander = new Float64Array(grid);
  const wanderSd = p.wanderCents * r.between(0.2, 1);
  const forget = Math.exp(-10 / logBetween(r, 150, 900));
  for (let i = 1; i < grid; i++) {
    room[i] = room[i - 1]! * Math.exp(-10 / 2000) + 0.09 * r.normal();
    wander[i] = wander[i - 1]! * forget + wanderSd * Math.sqrt(1 - forget * forget) * r.normal();
  }
  const at = (x: Float64Array, t: number) => {
    const i = Math.min(grid - 2, Math.floor(t / 10));
    return x[i]! + (x[i + 1]! - x[i]!) * (t / 10 - i);
  };
  const tempAt = shared ?? ((t: number) => 20 + swing * Math.sin((2 * Math.PI * t) / 1440 + phase) + at(room, t));
  // Constants of this bench: what a bring-up sets going again, and what nut and saddle give back of it.
  const strainCents = r.between(500, 1500);
  const drag = {
    cents: r.between(0.1, 0.6),
    share: r.between(0.005, 0.04),
    most: r.between(30, 120),
    min: r.between(0.6, 3),
  };
  const bringUps: { t: number; size: number }[] = [];
  const creep = (t: number) =>
    amplitude *
    (shape(t) + bringUps.reduce((s, b) => (b.t < t ? s + renewal * (b.size / strainCents) * shape(t - b.t) : s), 0));
  const friction = (t: number) =>
    bringUps.reduce(
      (s, b) =>
        b.t <= t
          ? s + (drag.cents + drag.share * Math.min(drag.most, b.size)) * (1 - Math.exp(-(t - b.t) / drag.min))
          : s,
      0,
    );
  const state = (t: number) => -creep(t) - friction(t) + temp * (tempAt(t) - 20) + at(wander, t);
  let base = -state(0.01) + r.normal();
  return {
    centsAt: (t) => state(t) + base,
    tempAt,
    centsPerC: temp,
    bringUp(t) {
      const flat = state(t) + base;
      bringUps.push({ t, size: Math.max(0, -flat) });
      base = -state(t) + 0.8 * r.normal();
    },
  };
}

export function forecastCase(id: number, seed: number): ForecastCase {
  const r = randomFrom(seed * 7919 + id * 104729);
  const material = MATERIAL_CODES[Math.floor(r.uniform() * MATERIAL_CODES.length)]!;
  const kind = Math.floor(r.uniform() * 7);
  // Ages from 20 min to 14 d: half of them even in the logarithm, half even in days, as people come back daily.
  const issueMin = r.uniform() < 0.5 ? logBetween(r, 20, 14 * 1440) : r.between(20, 14 * 1440);
  const thermometer = r.uniform() < 0.5;
  const string = trueString(r, material, issueMin + 7 * 1440 + 20, kind);
  const events: SettlingEvent[] = [{ t: 0, kind: 'retune' }];
  const read = (t: number) => {
    const slip = r.uniform() < 0.01 ? 8 * r.normal() : 0;
    events.push({
      t,
      kind: 'read',
      cents: string.centsAt(t) + 0.35 * r.normal() + slip,
      ...(thermometer ? { tempC: string.tempAt(t) + 0.2 * r.normal() } : {}),
    });
  };
  let t = r.between(1, 4);
  read(0.3);
  const growth = r.between(1.1, 1.7);
  let step = r.between(2, 12);
  while (t < issueMin - 1) {
    read(t);
    if (Math.abs(string.centsAt(t)) > 3 && r.uniform() < 0.85 && t + 1.2 < issueMin) {
      events.push({ t: t + 0.5, kind: 'retune' });
      string.bringUp(t + 0.5);
      if (r.uniform() < 0.8) read(t + 0.8);
    }
    step = Math.min(720, step * r.between(1, growth));
    t += 1 + step;
  }
  read(issueMin);
  const start = string.centsAt(issueMin);
  return { id, kind, material, events, issueMin, fallAfter: (h) => start - string.centsAt(issueMin + h) };
}
