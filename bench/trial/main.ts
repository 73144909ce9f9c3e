/** Verdicts of treated against untreated over simulated trials. `npm run bench:trial` */
import { SETTLING_PRIORS, type SettlingMaterial } from '../../src/core/settling';
import { randomFrom, type Random } from '../../src/core/simulate';
import { judgeTrial, type TrialPair } from '../../src/core/trial';
import { law } from '../forecast/truth';
import { writeSection } from '../report';

const COUNT = Number(process.argv[2] ?? 1000);
const SEED = Number(process.argv[3] ?? 5);
const AGES = [3, 8, 15, 30, 60, 120, 240, 480, 1440];
const MATERIALS: SettlingMaterial[] = ['plain-nylon', 'wound-nylon', 'gut', 'fluorocarbon', 'plain-steel'];
/** Spread of ln slope between instruments, and between like strings of one instrument. */
const BETWEEN = 0.4;
const WITHIN = 0.25;

/** Pairs on one instrument: a law and a room shared, slopes of their own; the treatment scales the treated ones. */
function trial(r: Random, pairs: number, effect: number, material: SettlingMaterial): TrialPair[] {
  const p = SETTLING_PRIORS[material];
  const shape = law(Math.floor(r.uniform() * 7), r);
  const base = (p.slopeCents * Math.exp(BETWEEN * r.normal()) * Math.log1p(1440 / p.tauMin)) / shape(1440);
  const swing = r.between(0.2, 1.6);
  const phase = r.uniform() * 6.28;
  const string = (factor: number) => {
    const slope = base * factor * Math.exp(WITHIN * r.normal());
    const temp = p.tempMean + 0.5 * p.tempSd * r.normal();
    return AGES.map((at) => {
      const t = at * r.between(0.9, 1.1);
      const room = temp * swing * (Math.sin((2 * Math.PI * t) / 1440 + phase) - Math.sin(phase));
      return { t, fall: slope * shape(t) - room + 0.35 * r.normal() };
    });
  };
  return Array.from({ length: pairs }, () => ({ treated: string(effect), control: string(1) }));
}

const started = process.cpuUsage().user;
const rows: string[] = [];
for (const [effect, words] of [
  [1, 'no effect'],
  [0.7, '−30 %'],
  [0.5, '−50 %'],
  [1.5, '+50 %'],
] as const) {
  for (const pairs of [4, 6, 12]) {
    const counts = { less: 0, more: 0, 'cannot-tell': 0 };
    let covered = 0;
    for (let i = 0; i < COUNT; i++) {
      const r = randomFrom(SEED * 7919 + i * 104729 + pairs);
      const t = judgeTrial(trial(r, pairs, effect, MATERIALS[i % MATERIALS.length]!))!;
      counts[t.verdict]++;
      if (effect >= t.ratio.q05 && effect <= t.ratio.q95) covered++;
    }
    const share = (n: number) => `${((100 * n) / COUNT).toFixed(1)} %`;
    rows.push(
      `| ${words} | ${pairs} | ${share(counts.less)} | ${share(counts.more)} | ${share(counts['cannot-tell'])} | ${share(covered)} |`,
    );
  }
}
writeSection(
  'Compare treatments',
  [
    `${COUNT} trials a row, seed ${SEED}, strings matched on one instrument, nine readings in a day, five materials, seven laws of creep.`,
    '',
    '| true effect | pairs | judged less | judged more | cannot tell | 90 % interval covers |',
    '|---|---|---|---|---|---|',
    ...rows,
  ],
  (process.cpuUsage().user - started) / 1e6,
);
