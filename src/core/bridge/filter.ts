import type { BridgeMemory } from '../codes';
import { centsOf, couplingOf, type BridgeLaw, type Coupling } from './coupling';

/** What happened to a bridge, in order. Strings count from 1; cents from the new targets. */
export type BridgeEvent =
  | { kind: 'read'; string: number; cents: number; sigmaCents?: number | undefined }
  /** It was turned until it read this. */
  | { kind: 'set'; string: number; cents: number; sigmaCents?: number | undefined }
  /** Both screws alike; tightened is positive. */
  | { kind: 'claw'; turns: number }
  /** Its strings were let down to turn the claw: how far, nobody knows. */
  | { kind: 'slackened' }
  /** How far its back stands up, degrees. */
  | { kind: 'tilt'; degrees: number };

/** Spreads of what is not known of a bridge: of logarithms, and of the angle in rad (house estimates). */
const SPREAD = { turning: 0.4, claw: 0.2, lever: 0.15, eachLever: 0.06, stiff: 0.09 };
/** A reading's standard error where none is given; a set string stands within this of where it was stopped, cents. */
export const READ_CENTS = 0.5;
const SET_CENTS = 0.8;
/** What nut and pivot leave behind after a stop, cents (house estimates). */
const NUT_CENTS = 0.35;
const PIVOT_CENTS = 0.6;
/** The reduced law is off by this share of what a string is moved by the others (house, from the bench). */
const INEXACT = 0.03;
/** What was learned of a bridge holds less well the next time, of logarithms (house estimate). */
const FORGETS = 0.01;
/** A reading this many standard errors from what was expected is not believed at once. */
const GATE = 4;
const PER_CENT = Math.LN2 / 600;
const RADIANS = Math.PI / 180;
const LEVEL_SPREAD = 0.8 * RADIANS;
const TILT_SPREAD = 0.2 * RADIANS;

/** Where the parts of the state lie. */
const layout = (n: number) => ({
  b: 0,
  pivot: n,
  level: n + 1,
  parameters: n + 2,
  turning: n + 2,
  claw: n + 3,
  lever: n + 4,
  levers: n + 5,
  stiff: n + 5 + n,
  size: n + 5 + 2 * n,
});

/** How many figures are remembered of a bridge with so many strings. */
export const memorySize = (strings: number): number => {
  const { parameters, size } = layout(strings);
  return size - parameters;
};

/** The bridge as it is believed to be, with its doubts. */
export interface BridgeBelief {
  /** Expected readings in cents with their standard errors; null for a string that was never read. */
  expected: (number | null)[];
  expectedSd: (number | null)[];
  coupling: Coupling;
  /** Angle since it was first read and where level lies from there, rad forward. */
  angle: number;
  level: number;
  /** Windings now, by string. */
  b: number[];
  /** How much each was wound since it was first read, cents. */
  wound: number[];
  memory: BridgeMemory;
  /** So many of the last readings were not believed that nothing is believed any more. */
  lost: boolean;
}

/** Follows a bridge through readings, stops and turns of the claw (extended Kalman filter on the reduced law, Jacobians by differences). */
export interface BridgeFilter {
  apply(event: BridgeEvent): void;
  belief(): BridgeBelief;
  /** Readings if the strings were wound to b at this belief, cents. */
  readingsAt(b: readonly number[]): number[];
}

/**
 * What is believed of a bridge and its strings, reading by reading (extended Kalman filter).
 * @param memory what was learned of it before
 * @param levelKnown whether the bridge stood level when its strings were right
 */
export function createBridgeFilter(law: BridgeLaw, memory: BridgeMemory | null, levelKnown: boolean): BridgeFilter {
  const n = law.tensionN.length;
  const at = layout(n);
  const x = new Float64Array(at.size);
  const p = Array.from({ length: at.size }, () => new Float64Array(at.size));
  const first: (number | undefined)[] = Array.from({ length: n }, () => undefined);
  let turns = 0;
  /** Disbelieved of the last readings. */
  let recent: boolean[] = [];
  const doubted = new Map<number, number>();

  for (let i = 0; i < n; i++) {
    x[i] = 1;
    p[i]![i] = 1;
  }
  p[at.level]![at.level] = (levelKnown ? 0.1 * RADIANS : LEVEL_SPREAD) ** 2;
  const count = memorySize(n);
  // Of another number of strings it is of another bridge.
  if (memory && memory.mean.length === count) {
    for (let i = 0; i < count; i++) {
      x[at.parameters + i] = memory.mean[i]!;
      for (let j = 0; j < count; j++) p[at.parameters + i]![at.parameters + j] = memory.covariance[i]![j]!;
      p[at.parameters + i]![at.parameters + i]! += FORGETS ** 2;
    }
  } else {
    const own = (i: number, sd: number) => (p[i]![i] = sd ** 2);
    own(at.turning, SPREAD.turning);
    own(at.claw, SPREAD.claw);
    own(at.lever, SPREAD.lever);
    for (let i = 0; i < n; i++) {
      own(at.levers + i, SPREAD.eachLever);
      own(at.stiff + i, SPREAD.stiff);
    }
  }

  const coupling = (state: Float64Array): Coupling =>
    couplingOf({
      ...law,
      stiffNPerMm: law.stiffNPerMm.map((k, i) => k * Math.exp(state[at.stiff + i]!)),
      leverMm: law.leverMm.map((h, i) => h * Math.exp(state[at.lever]! + state[at.levers + i]!)),
      turning: law.turning * Math.exp(state[at.turning]!),
      clawNmm: law.clawNmm * Math.exp(state[at.claw]! + state[at.turning]!),
    });
  const angleOf = (state: Float64Array, c: Coupling): number => {
    let angle = state[at.pivot]! - c.claw * turns;
    for (let i = 0; i < n; i++) if (first[i] !== undefined) angle += c.w[i]! * (state[i]! - first[i]!);
    return angle;
  };
  const reading = (state: Float64Array, j: number): number => {
    const c = coupling(state);
    const angle = angleOf(state, c);
    return centsOf((state[j]! - c.stretch[j]! * angle) * (1 + c.shorter[j]! * angle));
  };
  /** How an observation changes with every part of the state. */
  const slopes = (observe: (state: Float64Array) => number): Float64Array => {
    const h = new Float64Array(at.size);
    const probe = Float64Array.from(x);
    const here = observe(probe);
    for (let i = 0; i < at.size; i++) {
      const step = 1e-5;
      probe[i]! += step;
      h[i] = (observe(probe) - here) / step;
      probe[i] = x[i]!;
    }
    return h;
  };
  const update = (h: Float64Array, innovation: number, variance: number): void => {
    const ph = p.map((row) => row.reduce((s, v, k) => s + v * h[k]!, 0));
    const total = h.reduce((s, v, k) => s + v * ph[k]!, 0) + variance;
    for (let i = 0; i < at.size; i++) {
      const gain = ph[i]! / total;
      x[i]! += gain * innovation;
      for (let k = 0; k < at.size; k++) p[i]![k]! -= gain * ph[k]!;
    }
  };
  const spreadOf = (h: Float64Array): number => {
    let total = 0;
    for (let i = 0; i < at.size; i++) {
      const row = p[i]!;
      let s = 0;
      for (let k = 0; k < at.size; k++) s += row[k]! * h[k]!;
      total += h[i]! * s;
    }
    return Math.max(0, total);
  };
  const forget = (i: number, variance: number): void => {
    for (let k = 0; k < at.size; k++) p[i]![k] = p[k]![i] = 0;
    p[i]![i] = variance;
  };
  /** Winds string j so that it is expected to read so. */
  const windTo = (state: Float64Array, j: number, cents: number): void => {
    for (let round = 0; round < 8; round++) {
      const now = reading(state, j);
      const before = state[j]!;
      state[j] = before + 1e-5;
      const slope = (reading(state, j) - now) / 1e-5;
      state[j] = before + (cents - now) / slope;
    }
  };
  const allReadings = () => Array.from({ length: n }, (_, i) => reading(x, i));
  /** The reduced law is not exact: what was moved far stands less surely. */
  const misfit = (before: readonly number[], except: number | undefined): void => {
    for (let i = 0; i < n; i++) if (i !== except) p[i]![i]! += (INEXACT * PER_CENT * (reading(x, i) - before[i]!)) ** 2;
  };
  const observe = (j: number, cents: number, sigma: number): void => {
    if (first[j] === undefined) {
      windTo(x, j, cents);
      first[j] = x[j]!;
      forget(j, (sigma * PER_CENT) ** 2);
      return;
    }
    const h = slopes((s) => reading(s, j));
    const innovation = cents - reading(x, j);
    const expected = spreadOf(h) + sigma ** 2;
    const strange = Math.abs(innovation) > GATE * Math.sqrt(expected);
    recent = [...recent.slice(-5), strange];
    if (!strange) {
      doubted.delete(j);
      update(h, innovation, sigma ** 2);
      return;
    }
    const before = doubted.get(j);
    if (before !== undefined && Math.abs(before - innovation) < 4) {
      // Read so twice: it has slipped, or was moved.
      doubted.delete(j);
      p[j]![j]! += (innovation * PER_CENT) ** 2;
      update(h, innovation, sigma ** 2);
      return;
    }
    doubted.set(j, innovation);
    update(h, innovation, sigma ** 2 * (innovation ** 2 / expected));
  };

  return {
    apply(event) {
      switch (event.kind) {
        case 'read':
          observe(event.string - 1, event.cents, event.sigmaCents ?? READ_CENTS);
          break;
        case 'set': {
          const j = event.string - 1;
          const c = coupling(x);
          const steepest = Math.max(...c.g.map(Math.abs));
          x[at.pivot]! *= 0.6;
          for (let k = 0; k < at.size; k++) {
            p[at.pivot]![k]! *= 0.6;
            p[k]![at.pivot]! *= 0.6;
          }
          p[at.pivot]![at.pivot]! += ((PIVOT_CENTS * PER_CENT) / Math.max(0.5, steepest)) ** 2;
          for (let i = 0; i < n; i++) if (i !== j) p[i]![i]! += (NUT_CENTS * PER_CENT) ** 2;
          if (first[j] === undefined) first[j] = x[j]!;
          const before = allReadings();
          windTo(x, j, event.cents);
          misfit(before, j);
          forget(j, 1);
          const h = slopes((s) => reading(s, j));
          update(h, event.cents - reading(x, j), SET_CENTS ** 2);
          doubted.delete(j);
          break;
        }
        case 'claw': {
          const before = allReadings();
          turns += event.turns;
          misfit(before, undefined);
          p[at.pivot]![at.pivot]! += ((2 * PIVOT_CENTS * PER_CENT) / 3) ** 2;
          break;
        }
        case 'slackened':
          // What was learned of the bridge stays; where it and its strings stand is read anew.
          for (let j = 0; j < n; j++) {
            x[j] = 1;
            forget(j, 1);
            first[j] = undefined;
          }
          x[at.pivot] = x[at.level] = 0;
          forget(at.pivot, 0);
          forget(at.level, LEVEL_SPREAD ** 2);
          turns = 0;
          recent = [];
          doubted.clear();
          break;
        case 'tilt': {
          // Level where the angle is that of level: what is seen is how far it is from there.
          const seen = (s: Float64Array) => angleOf(s, coupling(s)) - s[at.level]!;
          update(slopes(seen), event.degrees * RADIANS - seen(x), TILT_SPREAD ** 2);
          break;
        }
      }
    },
    belief() {
      const c = coupling(x);
      const expected = first.map((f, j) => (f === undefined ? null : reading(x, j)));
      const expectedSd = first.map((f, j) =>
        f === undefined ? null : Math.sqrt(spreadOf(slopes((s) => reading(s, j)))),
      );
      const parameters = Array.from(x.subarray(at.parameters));
      return {
        expected,
        expectedSd,
        coupling: c,
        angle: angleOf(x, c),
        level: x[at.level]!,
        b: Array.from(x.subarray(0, n)),
        wound: first.map((f, j) => (f === undefined ? 0 : centsOf(x[j]! / f))),
        memory: {
          mean: parameters,
          covariance: parameters.map((_, i) =>
            Array.from(p[at.parameters + i]!.subarray(at.parameters, at.parameters + count)),
          ),
        },
        lost: recent.length >= 5 && recent.filter(Boolean).length >= 4,
      };
    },
    readingsAt(b) {
      const state = Float64Array.from(x);
      state.set(b, 0);
      return Array.from({ length: n }, (_, j) => reading(state, j));
    },
  };
}
