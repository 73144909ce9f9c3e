/** The law of two decaying tones: its normal equations against differences of its cost, and its placing against the truth. */
import { randomFrom } from '../simulate';
import type { PartialTrack } from './demodulate';
import { phasePerCent } from './glide';
import { place, setOutAgain, twoToneOf } from './two-tone';
import { linearise, omegaOf, settle } from './two-tone-descent';
import {
  ALL,
  APART,
  APART_MEAN,
  DECAY,
  GLIDE,
  LN_TAU,
  OMEGA,
  OWN,
  RHO,
  RHO_MEAN,
  V_IM,
  V_RE,
  type TwoTone,
} from './two-tone-law';

interface Truth {
  hz: number;
  decay: number;
  rho: number;
  apartCents: number;
  second: [re: number, im: number];
  glideCents: number;
  tauS: number;
}

function truthOf(seed: number): Truth {
  const r = randomFrom(seed);
  return {
    hz: 150 + 500 * r.uniform(),
    decay: r.between(2, 9),
    rho: r.between(0.45, 0.65),
    apartCents: r.between(-0.7, 0.7),
    second: [0.15 * r.normal(), 0.15 * r.normal()],
    glideCents: r.between(0, 8),
    tauS: r.between(0.08, 0.3),
  };
}

/** The partial's frames from 80 ms after the onset on, against a carrier at the truth, noise as a share of the first frame. */
function partialOf(truth: Truth, noise: number, seed: number): TwoTone {
  const r = randomFrom(seed);
  const frames = 130;
  const amplitude = new Float64Array(frames);
  const phase = new Float64Array(frames);
  const timeS = Float64Array.from({ length: frames }, (_, k) => 0.08 + 0.005 * k);
  let last = 0;
  timeS.forEach((t, k) => {
    const bent = phasePerCent(truth.hz) * truth.glideCents * truth.tauS * (1 - Math.exp(-t / truth.tauS));
    const turn = phasePerCent(truth.hz) * truth.apartCents * t;
    const fast = Math.exp(-truth.decay * t);
    const slow = Math.exp(-truth.decay * (1 - truth.rho) * t);
    const [vr, vi] = truth.second;
    const re = fast + slow * (vr * Math.cos(turn) - vi * Math.sin(turn));
    const im = slow * (vr * Math.sin(turn) + vi * Math.cos(turn));
    const x = re * Math.cos(bent) - im * Math.sin(bent) + noise * r.normal();
    const y = re * Math.sin(bent) + im * Math.cos(bent) + noise * r.normal();
    amplitude[k] = Math.hypot(x, y);
    const p = Math.atan2(y, x);
    phase[k] = last = p + 2 * Math.PI * Math.round((last - p) / (2 * Math.PI));
  });
  const track: PartialTrack = { n: 1, carrierHz: truth.hz, timeS, amplitude, phase };
  return twoToneOf(track, noise + 1e-5, 0, 0)!;
}

const sharedOf = (truth: Truth): Float64Array =>
  Float64Array.of(truth.glideCents, Math.log(truth.tauS), truth.apartCents, truth.rho);

/** Minus the gradient, from the factor and the forward-solved right side that `linearise` leaves. */
function pullOf(p: TwoTone, i: number): number {
  let sum = i < OWN ? 0 : p.right[i]!;
  for (let k = 0; k < Math.min(i + 1, OWN); k++) sum += p.factor[i * ALL + k]! * p.right[k]!;
  return sum;
}

describe.each([1, 2, 3, 4, 5])('normal equations (%p)', (seed) => {
  const truth = truthOf(seed);
  const p = partialOf(truth, 0.01, seed);
  const shared = sharedOf(truth).map((v, i) => v + [0.7, 0.2, 0.1, 0.03][i]!);
  place(p, sharedOf(truth), 4);
  const own = p.own.slice();
  const costAt = (change: (own: Float64Array, shared: Float64Array) => void): number => {
    const moved = shared.slice();
    p.own.set(own);
    change(p.own, moved);
    linearise(p, moved);
    return p.cost;
  };

  // The size of the first tone also bounds the second's prior, which the equations leave out on purpose.
  test.each([
    ['second tone, real', V_RE, 1e-5],
    ['second tone, imaginary', V_IM, 1e-5],
    ['decay', DECAY, 1e-4],
    ['share of the decay spared', RHO, 1e-5],
    ['second tone apart', APART, 1e-5],
    ['angular frequency', OMEGA, 1e-5],
  ])('the pull on the %s is the slope of the cost', (_, i, step) => {
    const up = costAt((o) => (o[i]! += step));
    const down = costAt((o) => (o[i]! -= step));
    costAt(() => undefined);
    const pull = pullOf(p, i);
    expect(Math.abs((down - up) / (2 * step) - pull)).toBeLessThan(1e-3 * Math.abs(pull) + 0.05);
  });

  test.each([
    ['size of the sharp start', GLIDE, 1e-4],
    ['time constant', LN_TAU, 1e-4],
    ['mean distance', APART_MEAN, 1e-4],
    ['mean share spared', RHO_MEAN, 1e-4],
  ])('the pull on the shared %s is the slope of the cost', (_, which, step) => {
    const up = costAt((__, s) => (s[which]! += step));
    const down = costAt((__, s) => (s[which]! -= step));
    costAt(() => undefined);
    const pull = pullOf(p, OWN + which);
    expect(Math.abs((down - up) / (2 * step) - pull)).toBeLessThan(1e-3 * Math.abs(pull) + 0.05);
  });
});

test('placed at the shared truth, a clean partial is found to a tenth of a cent', () => {
  for (let seed = 10; seed < 30; seed++) {
    const truth = truthOf(seed);
    const p = partialOf(truth, 1e-4, seed);
    place(p, sharedOf(truth), 8);
    expect(Math.abs(omegaOf(p)) / p.perCent).toBeLessThan(0.1);
    expect(p.cost / p.count).toBeLessThan(1);
  }
});

test('a partial in a wrong place finds home from its neighbours’ word, and one at home stays', () => {
  for (let seed = 70; seed < 90; seed++) {
    const truth = truthOf(seed);
    const p = partialOf(truth, 0.003, seed);
    const shared = sharedOf(truth);
    place(p, shared, 8);
    const home = p.own.slice();
    const homeCost = p.cost;
    expect(setOutAgain(p, shared, 3 * truth.decay, 40 * p.perCent, 6)).toBe(false);
    expect([...p.own]).toEqual([...home]);

    p.own[OMEGA]! += 3 * p.perCent;
    p.own[DECAY]! *= 2;
    settle(p, shared, 1);
    expect(p.cost).toBeGreaterThan(homeCost + 1);
    expect(setOutAgain(p, shared, 1.2 * truth.decay, 0.3 * p.perCent, 8)).toBe(true);
    expect(Math.abs(omegaOf(p)) / p.perCent).toBeLessThan(0.5);
  }
});

test('settling never climbs, whatever it starts from', () => {
  for (let seed = 40; seed < 60; seed++) {
    const truth = truthOf(seed);
    const p = partialOf(truth, 0.02, seed);
    const shared = sharedOf(truth);
    const r = randomFrom(seed);
    place(p, shared, 1);
    const own = p.own.map((v) => v * (1 + 0.2 * r.normal()));
    p.own.set(own);
    linearise(p, shared);
    const before = p.cost;
    p.own.set(own);
    settle(p, shared, 5);
    expect(p.cost).toBeLessThanOrEqual(before);
    expect(p.own.every(Number.isFinite)).toBe(true);
  }
});
