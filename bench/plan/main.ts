/** The plan against ways of guessing, over show days. `npm run bench:plan -- SHOWS SEED` */
import { minutesPerString, planSession, planShow, planStrings, type Plan } from '../../src/core/plan';
import { readBench } from '../../src/core/log';
import { SETTLING_PRIORS } from '../../src/core/settling';
import { writeSection } from '../report';
import { blank, SHOW_MIN, showDay, visit, watchStrings, type Played, type Score, type ShowDay } from './world';
import { MINUTE } from '../../src/core/base';
import { TOLERANCE_CENTS } from '../../src/core/check';

const SHOWS = Number(process.argv[2] ?? 300);
const SEED = Number(process.argv[3] ?? 9);
const LAST_MIN = 15;
/** Visits of one walk lie nearer together than this. */
const WALK_GAP_MS = 6 * MINUTE;
let asks = 0;
let cpuUs = 0;

function planAt(day: ShowDay, nowMs: number): Plan {
  const began = process.cpuUsage().user;
  const bench = readBench(day.records.filter((r) => r.atMs <= nowMs));
  const session = planSession({ curtainMs: day.curtainMs, minutes: SHOW_MIN, toleranceCents: TOLERANCE_CENTS }, null);
  const plan = planShow({
    strings: planStrings(bench.instruments, (material) => SETTLING_PRIORS[material]),
    session,
    nowMs,
    zone: 120,
    minutesPerString: minutesPerString(bench),
  });
  asks++;
  cpuUs += process.cpuUsage().user - began;
  return plan;
}

/** A way of working: what is done next, to be done not before `nowMs`; undefined where the day is over. */
interface Doing {
  atMs: number;
  strings: Played[];
  leave: (s: Played) => number;
  from: number;
}
type Way = (day: ShowDay, nowMs: number) => Doing | undefined;

/** Does what the way says until the show is over, and watches the show. */
function play(score: Score, way: Way, show: number, handsOff: boolean): void {
  const day = showDay(SEED, show);
  const endMs = day.curtainMs + SHOW_MIN * MINUTE;
  const ever = new Set<Played>();
  let t = day.fromMs;
  let watched = day.curtainMs;
  let last = -Infinity;
  const look = (toMs: number) => {
    if (toMs > watched) watchStrings(score, day, ever, watched, Math.min(toMs, endMs));
    watched = Math.max(watched, toMs);
  };
  for (let n = 0; n < 400; n++) {
    const next = way(day, t);
    if (!next || next.atMs >= endMs - MINUTE || (handsOff && next.atMs >= day.curtainMs)) break;
    t = Math.max(t, next.atMs);
    look(t);
    if (t - last > WALK_GAP_MS) {
      if (t < day.curtainMs) score.before++;
      else score.inShow++;
    }
    const began = t;
    for (const s of next.strings) t = visit(day, s, t, next.leave(s), next.from);
    score.workMin += (t - began) / MINUTE;
    last = t;
    t += 1000;
  }
  look(endMs);
  score.shows++;
  score.strings += day.strings.length;
  score.everOut += ever.size;
}

const WORK = new Set(['check', 'last-tuning', 'between']);
/** What was said to hold after the last tuning, hands off. */
const declared: { chance: number; good: boolean }[] = [];

const byPlan: Way = (day, nowMs) => {
  const item = planAt(day, nowMs).items.find((i) => WORK.has(i.what));
  if (!item) return undefined;
  const of = (id: string) => day.strings.find((s) => s.instrumentId === item.instrumentId && s.stringId === id)!;
  return {
    atMs: item.atMs,
    strings: item.stringIds.map(of),
    leave: (s) => item.leaveAtCents?.[s.stringId] ?? 0,
    from: item.bringUpFromCents ?? (item.what === 'check' ? TOLERANCE_CENTS / 2 : 0),
  };
};

/** All strings every so many minutes, before and in the show. */
const byClock =
  (everyMin: number, before: (day: ShowDay, nowMs: number) => number): Way =>
  (day, nowMs) => {
    const lastMs = day.curtainMs - LAST_MIN * MINUTE;
    const next = nowMs < day.curtainMs ? before(day, nowMs) : nowMs + everyMin * MINUTE;
    const atMs = nowMs < lastMs ? Math.min(next, lastMs) : Math.max(next, nowMs);
    return { atMs, strings: day.strings, leave: () => 0, from: 0 };
  };

function holdsOf(show: number): void {
  const day = showDay(SEED, show);
  let t = day.fromMs;
  for (let n = 0; n < 60; n++) {
    const next = byPlan(day, t);
    if (!next || next.atMs >= day.curtainMs) break;
    t = Math.max(t, next.atMs);
    for (const s of next.strings) t = visit(day, s, t, next.leave(s), next.from);
    t += 1000;
  }
  const { holds } = planAt(day, t);
  const fromMs = Math.max(t, day.curtainMs);
  const bad = new Set<Played>();
  watchStrings(blank(), day, bad, fromMs, day.curtainMs + SHOW_MIN * MINUTE);
  for (const s of day.strings) {
    const chance = holds[`${s.instrumentId}/${s.stringId}`];
    if (chance !== undefined) declared.push({ chance, good: !bad.has(s) });
  }
}

const WAYS: [string, Way][] = [
  ['the plan', byPlan],
  ['every ten minutes', byClock(10, (_, now) => now + 10 * MINUTE)],
  ['every hour', byClock(60, (_, now) => now + 60 * MINUTE)],
  [
    'at doubled ages, once before',
    byClock(Infinity, (day, now) => now + (now - Math.min(...day.strings.map((s) => s.strungMs)))),
  ],
];
const only = process.argv[4];
const rows = WAYS.filter(([name]) => !only || name === only).map(([name, way]) => {
  const own = blank();
  const off = blank();
  for (let show = 0; show < SHOWS; show++) {
    play(own, way, show, false);
    play(off, way, show, true);
  }
  const share = (n: number, of: number) => `${((100 * n) / of).toFixed(1)} %`;
  return `| ${name} | ${(own.before / SHOWS).toFixed(1)} / ${(own.inShow / SHOWS).toFixed(1)} | ${share(own.out, own.minutes)} | ${share(off.out, off.minutes)} | ${share(own.everOut, own.strings)} | ${(own.workMin / SHOWS).toFixed(0)} |`;
});
for (let show = 0; show < SHOWS; show++) holdsOf(show);
const lines = [
  '| way of working | walks before / in the show | string-minutes out, own retuning | hands off | strings ever out | minutes of work |',
  '|---|---|---|---|---|---|',
  ...rows,
  '',
  '| said to hold from a chance of | strings | wrongly | of those that held |',
  '|---|---|---|---|',
  ...[0.5, 0.7, 0.8, 0.85, 0.9, 0.95].map((p) => {
    const ready = declared.filter((d) => d.chance >= p);
    const held = declared.filter((d) => d.good);
    const share = (n: number, of: number) => `${((100 * n) / Math.max(1, of)).toFixed(1)} %`;
    return `| ${p} | ${ready.length} | ${share(ready.filter((d) => !d.good).length, ready.length)} | ${share(held.filter((d) => d.chance >= p).length, held.length)} |`;
  }),
];
console.log(lines.join('\n'), `\n${asks} asks, ${(cpuUs / 1000 / Math.max(1, asks)).toFixed(0)} ms each`);
if (!only) writeSection('Plan', [`${SHOWS} shows of ${SHOW_MIN} min, seed ${SEED}`, '', ...lines], cpuUs / 1e6);
