import { type Random, momentAt, pitchAt, tensionAt, type ExactBridge, type ExactString } from '../../src/core/simulate';
import { clamp } from '../../src/core/base';

export const BRIDGE_CASES = ['touch-up', 'fresh', 'new-tuning'] as const;
export type BridgeCase = (typeof BRIDGE_CASES)[number];

/** A bridge that nobody told the estimator of, with friction, strings and a hand. */
export interface BridgeWorld {
  /** What its owner can say. */
  told: {
    springs: number;
    screwPitchMm: number;
    scaleMm: number;
    strings: { targetHz: number; gaugeMm: number; wound: boolean }[];
  };
  /** Turns of the claw that bring it level at the new targets; from the truth. */
  clawTruth: number;
  read(i: number): number;
  /** @param withinCents what the hand is told is near enough */
  set(i: number, toCents: number, withinCents: number): number;
  claw(turns: number): void;
  /** A block is put in, or taken out: while it is in, the bridge does not move. */
  block(on: boolean): void;
  truth(): number[];
  /** All strings anew off, as on another day. */
  another(random: Random): void;
}

const SETS: { notes: number[]; gauges: number[]; wound: boolean[]; scaleMm: number }[] = [
  {
    notes: [64, 59, 55, 50, 45, 40],
    gauges: [0.229, 0.279, 0.406, 0.61, 0.813, 1.067],
    wound: [false, false, false, true, true, true],
    scaleMm: 648,
  },
  {
    notes: [64, 59, 55, 50, 45, 40],
    gauges: [0.254, 0.33, 0.432, 0.66, 0.914, 1.168],
    wound: [false, false, false, true, true, true],
    scaleMm: 648,
  },
  {
    notes: [63, 58, 54, 49, 44, 39],
    gauges: [0.254, 0.33, 0.432, 0.711, 0.965, 1.219],
    wound: [false, false, false, true, true, true],
    scaleMm: 628,
  },
  {
    notes: [59, 54, 50, 45, 40, 35],
    gauges: [0.33, 0.457, 0.61, 0.864, 1.168, 1.575],
    wound: [false, false, true, true, true, true],
    scaleMm: 686,
  },
];
const hz = (midi: number) => 440 * 2 ** ((midi - 69) / 12);
/** Semitones of new tunings, by string. */
const NEW: number[][] = [
  [-1, -1, -1, -1, -1, -1],
  [-2, -2, -2, -2, -2, -2],
  [0, 0, 0, 0, 0, -2],
  [-2, -2, 0, 0, 0, -2],
  [1, 1, 1, 1, 1, 1],
  [-1, -1, -1, -1, -1, -3],
];

/** Where a smooth function is none, near a start (secant). */
function solve(f: (x: number) => number, start: number, step: number): number {
  let [x0, x1] = [start, start + step];
  let [f0, f1] = [f(x0), f(x1)];
  for (let i = 0; i < 30 && Math.abs(f1) > 1e-6 && f1 !== f0; i++) {
    const x2 = x1 - Math.max(-20 * step, Math.min(20 * step, (f1 * (x1 - x0)) / (f1 - f0)));
    [x0, f0] = [x1, f1];
    [x1, f1] = [x2, f(x2)];
  }
  return x1;
}

/** So much of what is near enough is doubt of the figure, cents. */
const DOUBT_CENTS = 0.6;

const COPY = (b: ExactBridge): ExactBridge => ({
  strings: b.strings.map((s) => ({ ...s })),
  springs: { ...b.springs, claw: { ...b.springs.claw } },
});

export function drawBridge(random: Random, kind: BridgeCase): BridgeWorld {
  const set = SETS[Math.floor(random.uniform() * SETS.length)]!;
  const shift = kind === 'new-tuning' ? NEW[Math.floor(random.uniform() * NEW.length)]! : set.notes.map(() => 0);
  const old = set.notes.map(hz);
  const targetHz = set.notes.map((m, i) => hz(m + shift[i]!));
  const lever = random.between(8.5, 14);
  const setBack = random.between(-3, 4);
  const count = random.uniform() < 0.15 ? 4 : random.uniform() < 0.15 ? 2 : 3;
  const rate = random.between(1.3, 2.6) * (count === 2 ? 1.35 : 1);
  const arm = random.between(27, 42);
  const pitchMm = random.between(1.4, 2.1);
  const tension = (f: number, mass: number) => mass * (2e-3 * set.scaleMm * f) ** 2;
  const strings = set.gauges.map((gauge, i): ExactString => {
    const wound = set.wound[i]!;
    const core = wound ? clamp(gauge * random.between(0.36, 0.45), 0.28, 0.6) : gauge;
    const mass = (Math.PI / 4) * (gauge * 1e-3) ** 2 * (wound ? random.between(6100, 6600) : 7850);
    const axialN = (200000 * Math.PI * core * core) / 4;
    const behindMm = random.between(90, 230);
    const above = lever * (1 + random.between(-0.06, 0.06));
    const speaking = set.scaleMm + random.between(0, 3);
    const nut = { alongMm: setBack - speaking, aboveMm: above + random.between(-1, 3) };
    const saddle = { alongMm: setBack, aboveMm: above };
    const length = Math.hypot(nut.alongMm - saddle.alongMm, nut.aboveMm - saddle.aboveMm);
    const t = tension(old[i]!, mass);
    return { axialN, behindMm, massKgPerM: mass, nut, saddle, slackMm: (length + behindMm) / (1 + t / axialN) };
  });
  const hook = { alongMm: random.between(-2, 4), aboveMm: -arm };
  const claw = { alongMm: -random.between(85, 110), aboveMm: -arm - random.between(-4, 4) };
  const bridge: ExactBridge = { strings, springs: { count, rateNPerMm: rate, slackMm: 0, hook, claw } };
  // Level as it was tuned: the springs carry the strings there.
  const balance = (b: ExactBridge) => {
    let [low, high] = [-200, 200];
    for (let i = 0; i < 60; i++) {
      const middle = (low + high) / 2;
      b.springs.slackMm = middle;
      if (momentAt(b, 0) > 0) high = middle;
      else low = middle;
    }
  };
  balance(bridge);
  let angle = 0;
  const cents = (b: ExactBridge, i: number, at: number) => 1200 * Math.log2(pitchAt(b.strings[i]!, at) / targetHz[i]!);
  const friction = random.between(0, 1.5);
  /** Moment that the pivot holds against. */
  const perCent = (() => {
    // A cent of the steepest string, in moment.
    const d = 1e-3;
    const slope = Math.max(...strings.map((_string, i) => Math.abs(cents(bridge, i, d) - cents(bridge, i, 0)) / d));
    const stiff = Math.abs(momentAt(bridge, d) - momentAt(bridge, 0)) / d;
    return stiff / slope;
  })();
  const holds = 0.5 * friction * random.uniform() * perCent;
  let blocked = false;
  const settle = (b: ExactBridge, from: number): number => {
    if (blocked) return from;
    const m = momentAt(b, from);
    if (Math.abs(m) <= holds) return from;
    const goal = Math.sign(m) * holds;
    return solve((at) => momentAt(b, at) - goal, from, 1e-3);
  };
  /** Winds string i until it stands so, cents. */
  const windTo = (b: ExactBridge, i: number, to: number, from: number): number => {
    const s = b.strings[i]!;
    const off = (slackMm: number) => {
      s.slackMm = slackMm;
      return cents(b, i, settle(b, from)) - to;
    };
    s.slackMm = solve(off, s.slackMm, 0.01);
    return settle(b, from);
  };
  // Where it will stand level with the new strings: by the truth, from a copy.
  const clawTruth = (() => {
    if (kind !== 'new-tuning') return 0;
    const b = COPY(bridge);
    b.strings.forEach((s, i) => {
      const length = Math.hypot(s.nut.alongMm - s.saddle.alongMm, s.nut.aboveMm - s.saddle.aboveMm);
      s.slackMm = (length + s.behindMm) / (1 + tension(targetHz[i]!, s.massKgPerM) / s.axialN);
    });
    let [low, high] = [-8, 8];
    for (let i = 0; i < 50; i++) {
      const middle = (low + high) / 2;
      b.springs.claw.alongMm = claw.alongMm - middle * pitchMm;
      if (momentAt(b, 0) > 0) low = middle;
      else high = middle;
    }
    return (low + high) / 2;
  })();
  const off = (r: Random) => {
    if (kind === 'new-tuning') return;
    const goals = bridge.strings.map(() => (kind === 'fresh' ? -60 + 25 * r.normal() : 3.6 * r.normal()));
    // Until all stand so: each moves the others.
    for (let round = 0; round < 6; round++) goals.forEach((goal, i) => (angle = windTo(bridge, i, goal, angle)));
  };
  off(random);
  return {
    told: {
      springs: count,
      screwPitchMm: pitchMm,
      scaleMm: set.scaleMm,
      strings: set.gauges.map((gaugeMm, i) => ({ targetHz: targetHz[i]!, gaugeMm, wound: set.wound[i]! })),
    },
    clawTruth,
    read: (i) => cents(bridge, i, angle) + 0.5 * random.normal(),
    set(i, to, withinCents) {
      // What is near enough as it stands is not turned.
      const stands = cents(bridge, i, angle);
      if (Math.abs(stands - to) + DOUBT_CENTS < withinCents) return stands + random.between(-0.4, 0.4);
      // Else the hand stops within a step of what it wanted, by a figure that is no better.
      angle = windTo(bridge, i, to + random.between(-0.75, 0.75), angle);
      bridge.strings.forEach((s, k) => {
        if (k === i) return;
        const moved = (0.25 * friction * random.normal()) / 865;
        s.slackMm *= 1 - (moved * tensionAt(s, angle)) / s.axialN;
      });
      angle = settle(bridge, angle);
      return to + random.between(-0.4, 0.4);
    },
    claw(turns) {
      bridge.springs.claw.alongMm -= turns * pitchMm;
      angle = settle(bridge, angle);
    },
    block(on) {
      blocked = on;
      angle = settle(bridge, angle);
    },
    truth: () => bridge.strings.map((_, i) => cents(bridge, i, angle)),
    another: off,
  };
}
