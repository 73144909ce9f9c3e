/** Forecasts against two ways of guessing, on strings that obey none of the estimator's shapes. `npm run bench:forecast` */
import { quantile } from 'simple-statistics';
import { chanceToHold, fallAhead, fitSettling, mixtureQuantile } from '../../src/core/settling';
import { handLines } from './hand-lines';
import { roomLines } from './room';
import { forecastCase, type ForecastCase } from './truth';
import { writeSection } from '../report';

const COUNT = Number(process.argv[2] ?? 1200);
const SEED = Number(process.argv[3] ?? 77);
/** Strings of each kind that hands have been at. */
const HAND_COUNT = 300;
const HORIZONS = [90, 1440, 10080];

/** Last drop seen between two readings of one tuning period, and when. */
function lastDrop(c: ForecastCase): { cents: number; from: number; to: number } | undefined {
  const reads = [];
  for (let i = c.events.length - 1; i >= 0; i--) {
    const e = c.events[i]!;
    if (e.kind !== 'read') {
      if (reads.length >= 2) break;
      reads.length = 0;
      continue;
    }
    reads.push(e);
    if (reads.length === 2) break;
  }
  const [b, a] = reads;
  return a && b ? { cents: a.cents - b.cents, from: a.t, to: b.t } : undefined;
}

const errors: Record<string, number[][]> = {
  'this estimator': [[], [], []],
  'same drop again': [[], [], []],
  'rate ~ 1/age': [[], [], []],
};
const covered = [0, 0, 0];
let falseReady = 0;
let ready = 0;
let missed = 0;
let couldBe = 0;
const started = process.cpuUsage().user;
let cpu = 0;
for (let id = 0; id < COUNT; id++) {
  const c = forecastCase(id, SEED);
  const before = process.cpuUsage().user;
  const fit = fitSettling({ material: c.material, events: c.events }, c.issueMin);
  const mixes = HORIZONS.map((h) => fallAhead(fit, h));
  const q = mixes.map((m) => [0.05, 0.5, 0.95].map((p) => mixtureQuantile(m, p)));
  const hold = chanceToHold(fit, 90, 3, 0);
  cpu += process.cpuUsage().user - before;
  const drop = lastDrop(c);
  HORIZONS.forEach((h, i) => {
    const truth = c.fallAfter(h);
    errors['this estimator']![i]!.push(Math.abs(q[i]![1]! - truth));
    if (truth >= q[i]![0]! && truth <= q[i]![2]!) covered[i]!++;
    const same = drop?.cents ?? 0;
    errors['same drop again']![i]!.push(Math.abs(same - truth));
    const slope = drop ? drop.cents / Math.log(drop.to / Math.max(0.5, drop.from)) : 0;
    errors['rate ~ 1/age']![i]!.push(Math.abs(slope * Math.log((c.issueMin + h) / c.issueMin) - truth));
  });
  const holds = Math.abs(c.fallAfter(90)) <= 3;
  if (hold >= 0.85) {
    ready++;
    if (!holds) falseReady++;
  }
  if (holds) {
    couldBe++;
    if (hold < 0.85) missed++;
  }
}
const rows = Object.entries(errors).map(([name, e]) => [
  name,
  ...e.map((x) => quantile(x, 0.5).toFixed(2)),
  ...e.map((x) => quantile(x, 0.9).toFixed(1)),
]);
const lines: string[] = [
  `${COUNT} strings, seed ${SEED}, ages 20 min to 14 d, seven laws of creep outside the estimator's own; cents.`,
  '',
  '| forecast | median 90 min | 24 h | 7 d | p90 90 min | 24 h | 7 d |',
  '|---|---|---|---|---|---|---|',
  ...rows.map((r) => `| ${r.join(' | ')} |`),
  '',
  `90 % intervals covered ${covered.map((n) => ((100 * n) / COUNT).toFixed(1) + ' %').join(' / ')} at 90 min / 24 h / 7 d.`,
  `Holding +-3 cents for 90 min: declared wrongly ${((100 * falseReady) / Math.max(1, ready)).toFixed(1)} % of ${ready}, missed ${((100 * missed) / Math.max(1, couldBe)).toFixed(1)} % of ${couldBe}.`,
  `${(cpu / 1000 / COUNT).toFixed(1)} ms of CPU a string (fit and three horizons).`,
];
lines.push('', ...handLines(SEED, HAND_COUNT), '', ...roomLines(SEED));
writeSection('Forecast', lines, (process.cpuUsage().user - started) / 1e6);
