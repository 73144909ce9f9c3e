/* Two strings together, on a synthesis of its own and on pairs of sampled notes. Usage: main.ts [pairs] [seed] [rooms directory] */
import { argv, cpuUsage } from 'node:process';
import { measurePair, measureSteady, type PairOptions } from '../../src/core/two-strings';
import { earRound, solveNet } from '../../src/core/by-ear';
import { EAR_SCHOOLS } from '../../src/core/codes';
import { randomFrom } from '../../src/core/simulate';
import { writeSection } from '../report';
import { drawOther, drawPair, drawSteady, playInto, KITS_RATE, RATIOS, kitNotes } from './world';

const pairs = Number(argv[2] ?? 200);
const seed = Number(argv[3] ?? 1);
const rooms = argv[4];

const quantile = (list: readonly number[], p: number): number => {
  const sorted = list.map(Math.abs).sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(p * sorted.length))] ?? NaN;
};
const rms = (list: readonly number[]) => Math.sqrt(list.reduce((s, e) => s + e * e, 0) / Math.max(1, list.length));
const percent = (n: number, of: number) => (of > 0 ? `${((100 * n) / of).toFixed(0)} %` : '–');
const times: number[] = [];
const heard = (samples: Float32Array, rate: number, o: PairOptions) => {
  const began = performance.now();
  const answer = measurePair(samples, rate, o);
  times.push(performance.now() - began);
  return answer;
};

/** Pairs of a synthesis with known deviations; unisons on their own. */
function synthetic(): string[] {
  const errors: number[] = [];
  const unisons: number[] = [];
  let [missed, within, beats, signs, wrong, read] = [0, 0, 0, 0, 0, 0];
  for (let k = 0; k < pairs; k++) {
    const pair = drawPair(randomFrom(seed * 1009 + k));
    const r = heard(pair.samples, KITS_RATE, pair);
    if (!r.ok) {
      missed++;
      continue;
    }
    read++;
    const unison = pair.ratio[0] === pair.ratio[1];
    const error = unison ? Math.abs(r.cents) - Math.abs(pair.cents) : r.cents - pair.cents;
    (unison ? unisons : errors).push(error);
    if (Math.abs(error) < 2 * r.sigmaCents) within++;
    if (Math.abs(r.beatsHz - pair.beatsHz) < Math.max(0.1, 0.05 * pair.beatsHz)) beats++;
    if (unison && r.signKnown) {
      signs++;
      if (Math.sign(r.cents) !== Math.sign(pair.cents)) wrong++;
    }
  }
  const others = (['one', 'three', 'hum', 'silence'] as const).map((kind) => {
    let accepted = 0;
    for (let k = 0; k < 20; k++) {
      const other = drawOther(randomFrom(seed * 2003 + k), kind);
      if (heard(other.samples, KITS_RATE, other).ok) accepted++;
    }
    return `${kind} ${accepted} of 20`;
  });
  return [
    '| | asked | measured |',
    '|---|---|---|',
    `| RMSE; p95, cents | 0.3; 0.6 | ${rms(errors).toFixed(3)}; ${quantile(errors, 0.95).toFixed(2)} |`,
    `| unisons: median size error, cents; sign told, wrong | 0.3; 0 wrong | ${quantile(unisons, 0.5).toFixed(3)} (RMSE ${rms(unisons).toFixed(2)}); ${signs} of ${unisons.length}, ${wrong} wrong |`,
    `| truth within 2 sigma | 90 % | ${percent(within, read)} |`,
    `| beats within 5 % or 0.1 a second | all | ${percent(beats, read)} |`,
    `| good pairs missed | 3 % | ${percent(missed, pairs)} |`,
    `| no pair, but accepted | 1 of 20 | ${others.join(', ')} |`,
  ];
}

/** Pairs of sampled notes, each twice with another deviation: how well the difference is read. */
function sampled(dir: string): string[] {
  const notes = kitNotes(dir);
  const byKit = new Map<string, { errors: number[]; missed: number; count: number }>();
  for (let k = 0; k < pairs; k++) {
    const random = randomFrom(seed * 3001 + k);
    const a = notes[Math.floor(random.uniform() * notes.length)]!;
    const kit = notes.filter((n) => n.kit === a.kit);
    const b = kit[Math.floor(random.uniform() * kit.length)]!;
    const semitones = Math.round(12 * Math.log2(b.nominalHz / a.nominalHz));
    const ratio = RATIOS.find(([p, q]) => Math.abs(12 * Math.log2(p / q) - semitones) < 0.2);
    if (!ratio || (semitones === 0 && a !== b)) continue;
    const delayS = random.between(0, 0.4);
    const level = 0.5 * 10 ** (random.between(-12, 0) / 20);
    const first = random.between(-25, 25);
    const second = first + random.between(-15, 15);
    const read = [first, second].map((up) => {
      const out = new Float32Array(Math.round(4 * a.rate));
      playInto(out, a.rate, a, 0, 0.3, 0.5);
      playInto(out, a.rate, b, up, 0.3 + delayS, level);
      const noise = randomFrom(k);
      for (let i = 0; i < out.length; i++) out[i]! += 3e-4 * noise.normal();
      return heard(out, a.rate, { aHz: a.nominalHz, bHz: b.nominalHz, ratio });
    });
    const row = byKit.get(a.kit) ?? { errors: [], missed: 0, count: 0 };
    byKit.set(a.kit, row);
    row.count++;
    const [x, y] = [read[0]!, read[1]!];
    if (!x.ok || !y.ok) row.missed++;
    else if (semitones === 0) row.errors.push(Math.abs(x.cents) - Math.abs(first));
    else row.errors.push(y.cents - x.cents - (second - first));
  }
  return [
    '',
    'Sampled notes, the same pair at two known deviations (unisons: size):',
    '',
    '| instrument | pairs, missed | median error | RMSE |',
    '|---|---|---|---|',
    ...[...byKit].map(
      ([kit, { errors, missed, count }]) =>
        `| ${kit} | ${count}, ${missed} | ${quantile(errors, 0.5).toFixed(3)} | ${rms(errors).toFixed(2)} |`,
    ),
  ];
}

/** Forks, reeds, keys and strings for six seconds. */
function steady(): string[] {
  const errors: number[] = [];
  let within = 0;
  for (let k = 0; k < 40; k++) {
    const kind = (['fork', 'reed', 'keyboard', 'string'] as const)[k % 4]!;
    const { samples, nominalHz, hz } = drawSteady(randomFrom(seed * 4001 + k), kind);
    const r = measureSteady(samples, KITS_RATE, nominalHz, kind);
    if (!r.ok) continue;
    const error = 1200 * Math.log2(r.frequencyHz / hz);
    errors.push(error);
    if (Math.abs(error) < 2 * r.sigmaCents) within++;
  }
  return [
    '',
    `Steady tones of 6 s: ${errors.length} of 40 read, worst ${Math.max(...errors.map(Math.abs)).toFixed(4)} cents (0.05 asked), within 2 sigma ${percent(within, errors.length)}.`,
  ];
}

/** Rounds by ear on a guitar: what every string's error is after each school, alone and as a net, at 1, 2 and 4 cents a judgement. */
function rounds(): string[] {
  const notes = ['E2', 'A2', 'D3', 'G3', 'B3', 'E4'];
  const rows = EAR_SCHOOLS.flatMap((school) => {
    const round = earRound(notes, school, 22, 440);
    if (!round.ok) return [];
    const cells = [1, 2, 4].map((ear) => {
      const random = randomFrom(seed);
      const worst: number[] = [];
      for (let k = 0; k < 400; k++) {
        const off = new Map<number, number>();
        const anchor = notes.findIndex((_, i) => !round.round.steps.some((s) => s.tune === i + 1)) + 1;
        off.set(anchor, 0);
        for (const tune of new Set(round.round.steps.map((s) => s.tune))) {
          const own = round.round.steps.filter((s) => s.tune === tune);
          // Between two checkpoints the player meets in the middle.
          const heardAt = own.map((s) => off.get(s.against.string)! + ear * random.normal());
          off.set(tune, heardAt.reduce((a, b) => a + b, 0) / own.length);
        }
        worst.push(Math.max(...[...off.values()].map(Math.abs)));
      }
      return `${quantile(worst, 0.5).toFixed(1)} / ${quantile(worst, 0.95).toFixed(1)}`;
    });
    return [`| ${school} | ${cells.join(' | ')} |`];
  });
  const random = randomFrom(seed + 1);
  const net = [1, 2, 4].map((ear) => {
    const worst: number[] = [];
    for (let k = 0; k < 400; k++) {
      const observations = [];
      for (let a = 1; a <= 6; a++)
        for (let b = a + 1; b <= Math.min(6, a + 2); b++)
          observations.push({ a, b, cents: ear * random.normal(), sigmaCents: ear });
      const { offsets } = solveNet(6, { string: 2, cents: 0 }, observations);
      worst.push(Math.max(...offsets.map((o) => Math.abs(o ?? 0))));
    }
    return `${quantile(worst, 0.5).toFixed(1)} / ${quantile(worst, 0.95).toFixed(1)}`;
  });
  return [
    '',
    'A guitar by ear: the worst string of a round, median / 95 %, cents, by the ear:',
    '',
    '| school | 1 cent | 2 cents | 4 cents |',
    '|---|---|---|---|',
    ...rows,
    `| net of neighbours and next but one | ${net.join(' | ')} |`,
  ];
}

const lines = [
  `${pairs} pairs, seed ${seed}: a stiff-string synthesis that is not the simulator's, −40 to +40 cents, the second string 0 to 0.4 s later and up to 12 dB softer.`,
  '',
  ...synthetic(),
  ...(rooms ? sampled(rooms) : []),
  ...steady(),
  ...rounds(),
];
const sorted = times.sort((a, b) => a - b);
lines.push('', `Median time a recording of two: ${sorted[sorted.length >> 1]!.toFixed(0)} ms (300 asked).`);
writeSection('Intervals', lines, cpuUsage().user / 1e6);
