/**
 * Strings that hands have stretched, warmed and played, by laws, friction and constants of this bench alone: creep on a clock of
 * equivalent age (activated by stress and warmth), slack that beds, what comes back after a pull. Ranges: house estimates, wide.
 */
import { MATERIAL_CODES, SETTLING_PRIORS, type SettlingEvent, type SettlingMaterial } from '../../src/core/settling';
import { randomFrom, type Random } from '../../src/core/simulate';
import { law, logBetween } from './truth';
import { clamp } from '../../src/core/base';

export const GROUPS = ['untouched', 'stretched', 'warmed', 'played'] as const;
export type HandGroup = (typeof GROUPS)[number];

export interface HandCase {
  group: HandGroup;
  material: SettlingMaterial;
  events: SettlingEvent[];
  issueMin: number;
  /** Where it stands, cents from its target, without reading noise. */
  centsAfter: (hMin: number) => number;
}

/** A string in hands; its time goes forward only. Minutes and cents. */
interface LiveString {
  goTo(tMin: number): void;
  cents(): number;
  retune(): void;
  stretch(pulls: number): void;
  warm(minutes: number): void;
  play(minutes: number): void;
}

const STEP_MIN = 2;

function liveString(r: Random, material: SettlingMaterial): LiveString {
  const p = SETTLING_PRIORS[material];
  const f = law(Math.floor(r.uniform() * 7), r);
  const size = (p.slopeCents * Math.exp(0.9 * p.slopeSpread * r.normal()) * Math.log1p(1440 / p.tauMin)) / f(1440);
  const isSteel = p.steel;
  const bedTotal = p.slopeCents * logBetween(r, 0.08, 0.9);
  const bedAlone = 1 / logBetween(r, 350, 1100);
  const bedPull = r.between(0.25, 0.5);
  const bedPlay = 1 / r.between(22, 60);
  const stress = r.between(8, 17);
  const seconds = r.between(2, 7);
  const heatQ = isSteel ? r.between(0, 0.01) : r.between(0.05, 0.12);
  const cooling = r.between(9, 20);
  const comesBack = isSteel ? r.between(0, 0.3) : r.between(0.5, 4);
  const backMin = r.between(2, 8);
  const ofWarmth = p.tempMean + 0.7 * p.tempSd * r.normal();
  const frictionCents = r.between(0.1, 1.2);
  const frictionShare = r.between(0, 0.04);
  const frictionMin = logBetween(r, 0.5, 4);
  const swing = r.between(0.2, 1.4);
  const phase = r.uniform() * 2 * Math.PI;
  const wanderSd = p.wanderCents * r.between(0.2, 0.9);
  const wanderMin = logBetween(r, 150, 900);
  const renewal = r.uniform() < 0.7 ? 0 : r.between(0.2, 1.2);
  let t = 0;
  let age = 0;
  /** Bring-ups set some of the creep going again, each on a clock of its own. */
  let renewed: { share: number; age: number }[] = [];
  let left = bedTotal;
  let heat = 0;
  let back = 0;
  let drag = 0;
  let wander = 0;
  let tuned = 0;
  const creep = () => size * (f(age) + renewed.reduce((s, n) => s + n.share * f(n.age), 0));
  const ageing = (minutes: number) => {
    age += minutes;
    renewed = renewed.map((n) => ({ ...n, age: n.age + minutes }));
  };
  const state = () =>
    -creep() -
    (bedTotal - left) -
    back -
    drag +
    ofWarmth * (heat + swing * Math.sin((2 * Math.PI * t) / 1440 + phase)) +
    wander;
  /** What is dragged back by friction after a bring-up is still to come. */
  let dragLeft = 0;
  const pass = (dt: number, playing = false) => {
    t += dt;
    ageing(dt * Math.exp(heatQ * heat) * (playing ? 1.5 : 1));
    left *= Math.exp(-dt * (bedAlone + (playing ? bedPlay : 0)));
    const goal = playing ? 4 : 0;
    heat = goal + (heat - goal) * Math.exp(-dt / cooling);
    back *= Math.exp(-dt / backMin);
    const dragged = dragLeft * -Math.expm1(-dt / frictionMin);
    drag += dragged;
    dragLeft -= dragged;
    const keeps = Math.exp(-dt / wanderMin);
    wander = wander * keeps + wanderSd * Math.sqrt(1 - keeps * keeps) * r.normal();
  };
  const goTo = (to: number, playing = false) => {
    // Seconds at first, minutes later: what is slow needs no small steps.
    while (t < to - 1e-9) pass(Math.min(to - t, clamp(0.2 * t, 0.2, STEP_MIN)), playing);
  };
  const cents = () => state() + tuned;
  tuned = -state() + r.normal();
  return {
    goTo,
    cents,
    retune() {
      const flat = Math.max(0, -cents());
      renewed.push({ share: (renewal * Math.min(300, flat)) / 866, age: 0 });
      dragLeft = frictionCents + frictionShare * Math.min(60, flat);
      tuned += -cents() + 0.7 * r.normal();
    },
    stretch(pulls) {
      const load = r.between(0.2, 0.6);
      for (let k = 0; k < pulls; k++) {
        left *= 1 - bedPull * Math.min(1, load / 0.35);
        ageing((seconds * Math.exp(stress * load)) / 60);
        back += comesBack * load * 0.4;
      }
      goTo(t + 0.1 * pulls);
    },
    warm(minutes) {
      const to = r.between(14, 34);
      const end = t + minutes;
      while (t < end - 1e-9) {
        heat = to;
        pass(Math.min(1, end - t));
      }
    },
    play: (minutes) => goTo(t + minutes, true),
  };
}

/** @param daysAhead how long the truth is wanted for, min */
export function handCase(group: HandGroup, id: number, seed: number, horizons: readonly number[]): HandCase {
  const r = randomFrom(seed * 6007 + id * 50021 + GROUPS.indexOf(group) * 997);
  const material = MATERIAL_CODES[Math.floor(r.uniform() * (MATERIAL_CODES.length - 1))]!;
  const s = liveString(r, material);
  const events: SettlingEvent[] = [{ t: 0, kind: 'retune' }];
  let t = 0;
  const go = (to: number) => {
    t = to;
    s.goTo(to);
  };
  const read = () => void events.push({ t, kind: 'read', cents: s.cents() + 0.35 * r.normal() });
  const retune = () => {
    go(t + r.between(0.2, 0.8));
    events.push({ t, kind: 'retune' });
    s.retune();
    go(t + 0.2);
    read();
  };
  const wait = (minutes: number) => {
    const end = t + minutes;
    for (
      let step = Math.min(minutes, r.between(3, 12));
      t < end - 1;
      step = Math.min(end - t, step * r.between(1.2, 1.9))
    ) {
      go(Math.min(end, t + step));
      read();
      if (Math.abs(s.cents()) > 3 && r.uniform() < 0.8) retune();
    }
  };
  go(0.3);
  read();
  wait(logBetween(r, 2, 240));
  if (group === 'stretched') {
    const rounds = 1 + Math.floor(r.uniform() * 8);
    for (let k = 0; k < rounds; k++) {
      read();
      const pulls = 1 + Math.floor(r.uniform() * 6);
      events.push({ t: t + 0.05, kind: 'stretch' });
      s.stretch(pulls);
      go(t + 0.1 * pulls + r.between(0.3, 1.5));
      read();
      if (r.uniform() < 0.9) retune();
      if (r.uniform() < 0.3) wait(r.between(2, 20));
    }
  } else if (group === 'warmed') {
    for (let k = 0; k < 1 + Math.floor(r.uniform() * 2); k++) {
      read();
      const minutes = r.between(2, 12);
      events.push({ t: t + 0.05, kind: 'warm', minutes });
      s.warm(minutes);
      go(t + minutes + r.between(1, 30));
      read();
      retune();
      wait(r.between(5, 40));
    }
  } else if (group === 'played') {
    for (let k = 0; k < 1 + Math.floor(r.uniform() * 3); k++) {
      read();
      const minutes = r.between(10, 90);
      events.push({ t: t + 0.05, kind: 'play', minutes });
      s.play(minutes);
      go(t + minutes + r.between(0.5, 20));
      read();
      if (Math.abs(s.cents()) > 3) retune();
      wait(r.between(2, 120));
    }
  }
  if (r.uniform() < 0.75) wait(logBetween(r, 5, 1440));
  go(t + 0.5);
  read();
  const issueMin = t;
  const after = new Map<number, number>([[0, s.cents()]]);
  for (const h of [...horizons].sort((a, b) => a - b)) {
    go(issueMin + h);
    after.set(h, s.cents());
  }
  return { group, material, events, issueMin, centsAfter: (h) => after.get(h)! };
}
