/** The plan against ways of guessing, over simulated shows. `npm run bench:plan` */
import { chanceInShow, READY, walksUntil, type PlanString } from '../../src/core/plan';
import {
  fitSettling,
  offsetNow,
  SETTLING_PRIORS,
  type SettlingEvent,
  type SettlingMaterial,
} from '../../src/core/settling';
import { randomFrom, type Random } from '../../src/core/simulate';
import { logBetween, trueString, type TrueString } from '../forecast/truth';
import { writeSection } from '../report';

const SHOWS = Number(process.argv[2] ?? 300);
const SEED = Number(process.argv[3] ?? 9);
const TOLERANCE = 3;
const SHOW_MIN = 90;
const LAST_MIN = 15;
/** A walk brings up what is more than half the tolerance off. */
const HALF = TOLERANCE / 2;
const SETS: SettlingMaterial[][] = [
  ['plain-nylon', 'plain-nylon', 'wound-nylon', 'wound-nylon'],
  ['plain-steel', 'plain-steel', 'wound-steel', 'wound-steel'],
  ['gut', 'gut', 'wound-nylon', 'wound-nylon'],
  ['fluorocarbon', 'fluorocarbon', 'wound-nylon', 'wound-nylon'],
  ['synthetic-bowed', 'synthetic-bowed', 'synthetic-bowed', 'plain-steel'],
];

interface Played {
  material: SettlingMaterial;
  truth: TrueString;
  events: SettlingEvent[];
  lastReadMin: number;
  lastIntervalMin: number;
  offset: number;
}

function setUp(show: number, strungMin: number): { strings: Played[]; r: Random } {
  const r = randomFrom(SEED * 7919 + show * 104729);
  const strings = SETS[show % SETS.length]!.map((material): Played => ({
    material,
    truth: trueString(r, material, strungMin + SHOW_MIN + 30, Math.floor(r.uniform() * 7)),
    events: [{ t: 0, kind: 'retune' }],
    lastReadMin: 0,
    lastIntervalMin: 0,
    offset: 0,
  }));
  return { strings, r };
}

/** Reads a string, and brings it up when it is further off than is left. */
function check(s: Played, t: number, r: Random, leave: number): void {
  const read = (at: number) => {
    const cents = s.truth.centsAt(at) + 0.35 * r.normal();
    s.events.push({ t: at, kind: 'read', cents, tempC: s.truth.tempAt(at) + 0.2 * r.normal() });
    return cents;
  };
  s.offset = read(t);
  if (Math.abs(s.offset) > leave) {
    s.events.push({ t: t + 0.3, kind: 'retune' });
    s.truth.bringUp(t + 0.3);
    s.offset = read(t + 0.5);
  }
  s.lastIntervalMin = t - s.lastReadMin;
  s.lastReadMin = t + 0.5;
}

const fitOf = (s: Played, t: number) =>
  fitSettling({ material: s.material, events: s.events }, Math.max(t, s.lastReadMin));
const asked = (s: Played, i: number, t: number): PlanString => ({
  instrumentId: 'x',
  stringId: String(i),
  note: 'A4',
  material: s.material,
  prior: SETTLING_PRIORS[s.material],
  startMs: 0,
  strungMs: 0,
  lastReadMs: s.events.length > 1 ? s.lastReadMin * 60000 : null,
  lastIntervalMin: s.lastIntervalMin,
  offsetCents: s.events.length > 1 ? s.offset : null,
  fit: s.events.length > 1 ? fitOf(s, t) : undefined,
  readFit: s.events.length > 1 ? fitOf(s, s.lastReadMin) : undefined,
  rounds: 0,
});

interface Score {
  checks: number;
  walks: number;
  out: number;
  minutes: number;
  strings: number;
  everOut: number;
}
const blank = (): Score => ({ checks: 0, walks: 0, out: 0, minutes: 0, strings: 0, everOut: 0 });

/** Watches the strings over the show, minute by minute, retuning where the way of working says so. */
function play(score: Score, strings: Played[], from: number, act: (t: number) => void): void {
  const ever = strings.map(() => false);
  for (let t = from; t < from + SHOW_MIN; t++) {
    act(t);
    strings.forEach((s, i) => {
      score.minutes++;
      if (Math.abs(s.truth.centsAt(t + 0.9)) > TOLERANCE) {
        score.out++;
        ever[i] = true;
      }
    });
  }
  score.strings += strings.length;
  score.everOut += ever.filter(Boolean).length;
}

/** For each string after the last tuning: the chance given to it, and whether it held. */
const declared: { chance: number; good: boolean }[] = [];

function byPlan(show: number, strungMin: number, score: Score): void {
  const { strings, r } = setUp(show, strungMin);
  const last = strungMin - LAST_MIN;
  let t = 2;
  const visit = (list: Played[], at: number, leave: number) => {
    for (const s of list) check(s, at, r, leave);
    score.checks += list.length;
    score.walks++;
  };
  visit(strings, t, HALF);
  for (;;) {
    const [next] = walksUntil(
      strings.map((s, i) => asked(s, i, t)),
      t * 60000,
      (last - 10) * 60000,
      TOLERANCE,
      1,
    );
    if (!next) break;
    t = Math.max(t + 1, next.atMs / 60000);
    visit(
      next.strings.map((p) => strings[Number(p.stringId)]!),
      t,
      HALF,
    );
  }
  visit(strings, last, 0);
  // What is declared ready is left alone; its truth over the show tells whether that was right.
  const holds = strings.map((s) => {
    const fit = fitOf(s, last + 0.6);
    return { s, chance: chanceInShow(fit, LAST_MIN + SHOW_MIN, TOLERANCE, offsetNow(fit).cents) };
  });
  for (const { s, chance } of holds) {
    const good = Math.abs(s.truth.centsAt(strungMin + SHOW_MIN)) <= TOLERANCE;
    declared.push({ chance, good });
  }
  const open = new Map<Played, number>();
  const until = (s: Played, at: number) => {
    const fit = fitOf(s, at);
    let h = 1;
    while (at + h < strungMin + SHOW_MIN && chanceInShow(fit, h, TOLERANCE, offsetNow(fit).cents) >= READY) h += 2;
    return at + Math.max(4, h);
  };
  for (const { s, chance } of holds) if (chance < READY) open.set(s, until(s, last + 0.6));
  play(score, strings, strungMin, (now) => {
    const due = [...open].filter(([, at]) => at <= now);
    if (due.length === 0) return;
    score.walks++;
    for (const [s] of [...open].filter(([, at]) => at <= now + 6)) {
      check(s, now, r, 0);
      score.checks++;
      open.set(s, until(s, now + 0.6));
    }
  });
}

function byClock(every: number, show: number, strungMin: number, score: Score): void {
  const { strings, r } = setUp(show, strungMin);
  const visit = (t: number) => {
    for (const s of strings) check(s, t, r, 0);
    score.checks += strings.length;
    score.walks++;
  };
  let t = 2;
  for (; t < strungMin - LAST_MIN; t += every) visit(t);
  visit(strungMin - LAST_MIN);
  let next = strungMin + every - LAST_MIN;
  play(score, strings, strungMin, (now) => {
    if (now < next) return;
    visit(now);
    next = now + every;
  });
}

function waiting(show: number, score: Score): void {
  const strungMin = 3 * 1440;
  const { strings, r } = setUp(show, strungMin);
  for (const t of [2, strungMin - LAST_MIN]) {
    for (const s of strings) check(s, t, r, 0);
    score.checks += strings.length;
    score.walks++;
  }
  play(score, strings, strungMin, () => undefined);
}

const started = process.cpuUsage().user;
const scores = { plan: blank(), ten: blank(), hour: blank(), days: blank() };
for (let show = 0; show < SHOWS; show++) {
  const strungMin = logBetween(randomFrom(SEED + show), 120, 2880);
  byPlan(show, strungMin, scores.plan);
  byClock(10, show, strungMin, scores.ten);
  byClock(60, show, strungMin, scores.hour);
  waiting(show, scores.days);
}
const row = (name: string, s: Score) =>
  `| ${name} | ${((100 * s.out) / s.minutes).toFixed(1)} % | ${((100 * s.everOut) / s.strings).toFixed(1)} % | ${(s.walks / SHOWS).toFixed(1)} | ${(s.checks / s.strings).toFixed(1)} |`;
writeSection(
  'Plan',
  [
    `${SHOWS} shows of ${SHOW_MIN} min with four new strings each, strung 2 to 48 h before the curtain, five sets of materials, seven laws of creep; seed ${SEED}, ±${TOLERANCE} cents, last tuning ${LAST_MIN} min before.`,
    '',
    '| way of working | string-minutes out of tolerance in the show | strings ever out | walks a show | checks a string |',
    '|---|---|---|---|---|',
    row('the plan', scores.plan),
    row('every ten minutes', scores.ten),
    row('every hour', scores.hour),
    row('strung three days before, tuned once', scores.days),
    '',
    '| ready from a chance of | strings | wrongly | missed of those that held |',
    '|---|---|---|---|',
    ...[0.85, 0.9, 0.92, 0.95].map((p) => {
      const ready = declared.filter((d) => d.chance >= p);
      const held = declared.filter((d) => d.good);
      const share = (n: number, of: number) => `${((100 * n) / Math.max(1, of)).toFixed(1)} %`;
      return `| ${p}${p === READY ? ' (the plan)' : ''} | ${ready.length} | ${share(ready.filter((d) => !d.good).length, ready.length)} | ${share(held.filter((d) => d.chance < p).length, held.length)} |`;
    }),
  ],
  (process.cpuUsage().user - started) / 1e6,
);
