/** Octave passes on simulated strings: moves, verdicts, trends. `npm run bench:octave` */
import { median, quantile } from 'simple-statistics';
import {
  ageTrend,
  errorAfterMove,
  judgeString,
  learnResponse,
  octaveOf,
  saddleMoveMm,
  type OctaveVerdict,
} from '../../src/core/octave';
import { octaveCents, randomFrom, touchCents, type FrettedTruth, type Random } from '../../src/core/simulate';
import { writeSection } from '../report';

const COUNT = Number(process.argv[2] ?? 2000);
const SEED = Number(process.argv[3] ?? 3);
const OPEN_HZ = 110;
const hz = (cents: number) => OPEN_HZ * Math.pow(2, cents / 1200);

function string(r: Random): FrettedTruth {
  return {
    scaleMm: r.between(330, 860),
    saddleMm: 0,
    nutMm: 0,
    inharmonicity: 10 ** r.between(-5, -3.7),
    height1Mm: r.between(0.3, 0.8),
    height12Mm: r.between(1.5, 3),
    pressMm: r.between(0, 0.15),
    stretch: r.between(40, 220),
    wear: 0,
  };
}

/** Saddle place at which the octave of the truth is right, by bisection. */
function rightPlace(t: FrettedTruth): number {
  const error = (saddleMm: number) => octaveCents({ ...t, saddleMm });
  let [low, high] = [-20, 40];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (error(middle) > 0) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** A careful pass: three plucks a touch, medians; the hand's own scatter comes on top at the fret. */
function pass(t: FrettedTruth, sigma: number, hand: number, r: Random) {
  const plucks = (touch: Parameters<typeof touchCents>[1], extra: number) => {
    const all = [0, 1, 2].map(() => touchCents(t, touch) + sigma * r.normal() + Math.abs(extra * r.normal()));
    return { cents: median(all), spread: Math.max(...all) - Math.min(...all) };
  };
  const open = plucks({ kind: 'open' }, 0);
  const fret = plucks({ kind: 'fret', fret: 12 }, hand);
  const harmonic = plucks({ kind: 'harmonic' }, 0);
  // The median of three has 0.67 of the variance of one; three spread over 1.69 standard deviations (Tippett 1925).
  const one = Math.max(sigma, fret.spread / 1.69);
  return {
    readingSigma: one,
    errors: octaveOf({
      openHz: hz(open.cents),
      fret12Hz: hz(fret.cents),
      harmonic12Hz: hz(harmonic.cents),
      inharmonicity: t.inharmonicity,
      sigmaCents: sigma * Math.sqrt(0.45),
    }),
  };
}

const started = process.cpuUsage().user;
const rows: string[] = [];
for (const sigma of [0.1, 0.3]) {
  const r = randomFrom(SEED);
  const misses: number[] = [];
  const afterOne: number[] = [];
  const afterTwo: number[] = [];
  for (let i = 0; i < COUNT; i++) {
    const t = string(r);
    const right = rightPlace(t);
    const off = r.between(-4, 4);
    t.saddleMm = right + off;
    // Threads and tilting make a saddle answer more or less than the turns say.
    const gain = r.between(0.85, 1.15);
    const length = () => t.scaleMm + t.saddleMm;
    const first = pass(t, sigma, 0, r).errors;
    const move = saddleMoveMm(length(), first.errorCents);
    misses.push(Math.abs(move + off));
    t.saddleMm += gain * move;
    const second = pass(t, sigma, 0, r).errors;
    const left = () => Math.abs(octaveCents(t));
    afterOne.push(left());
    const response = learnResponse(length(), [
      { moveMm: move, beforeCents: first.errorCents, afterCents: second.errorCents, sigmaCents: sigma },
    ]);
    t.saddleMm += gain * (-second.errorCents / response.centsPerMm);
    afterTwo.push(left());
  }
  const within = (list: number[], most: number) =>
    `${((100 * list.filter((x) => x <= most).length) / COUNT).toFixed(1)} %`;
  rows.push(
    `| ${sigma} | ${quantile(misses, 0.95).toFixed(3)} mm | ${within(misses, 0.2)} | ${within(afterOne, 1)} | ${within(afterTwo, 1)} |`,
  );
}
const verdicts: string[] = [];
for (const sigma of [0.1, 0.3]) {
  const r = randomFrom(SEED + 1);
  for (const fault of ['in-tune', 'saddle', 'string', 'pressing'] as const) {
    const counts: Partial<Record<OctaveVerdict, number>> = {};
    for (let i = 0; i < COUNT / 4; i++) {
      const t = string(r);
      const sign = r.uniform() < 0.5 ? -1 : 1;
      if (fault === 'string') {
        // Worn or dirty enough to stand 1.5 cents or more from a uniform string.
        const perShare =
          touchCents({ ...t, wear: 0.01 }, { kind: 'harmonic' }) - touchCents({ ...t, wear: 0.01 }, { kind: 'open' });
        const even = touchCents(t, { kind: 'harmonic' }) - touchCents(t, { kind: 'open' });
        t.wear = (sign * 0.01 * r.between(1.6, 6)) / Math.abs(perShare - even);
      }
      t.saddleMm = rightPlace({ ...t, wear: 0 });
      if (fault === 'saddle') t.saddleMm += sign * r.between(0.004, 0.008) * t.scaleMm * r.between(0.4, 1);
      const { errors, readingSigma } = pass(t, sigma, fault === 'pressing' ? r.between(4, 10) : 0, r);
      const verdict = judgeString(errors, readingSigma, t.scaleMm);
      counts[verdict] = (counts[verdict] ?? 0) + 1;
    }
    const share = ((100 * (counts[fault] ?? 0)) / (COUNT / 4)).toFixed(1);
    verdicts.push(
      `| ${fault} | ${sigma} | ${share} % | ${Object.entries(counts)
        .filter(([v]) => v !== fault)
        .map(([v, n]) => `${v} ${n}`)
        .join(', ')} |`,
    );
  }
}
const trends: string[] = [];
const r = randomFrom(SEED + 2);
for (const [perMonth, repeats, months] of [
  [0, 1, 8],
  [0.3, 1, 8],
  [0.3, 3, 6],
  [0.6, 1, 8],
] as const) {
  let grows = 0;
  let covered = 0;
  for (let i = 0; i < COUNT; i++) {
    const bend = r.between(0, 0.04);
    const passes = Array.from({ length: months + 1 }, (_, m) => ({
      ageDays: 30 * m,
      errorCents: (perMonth * (m + bend * m * m)) / (1 + bend * months) + (0.5 / Math.sqrt(repeats)) * r.normal(),
      sigmaCents: 0.5 / Math.sqrt(repeats),
    }));
    const trend = ageTrend(passes, 4)!;
    if (trend.grows) grows++;
    // The slope of the truth at the end of the record.
    const end = (perMonth * (1 + 2 * bend * months)) / (1 + bend * months);
    if (end >= trend.perMonth.q10 && end <= trend.perMonth.q90) covered++;
  }
  trends.push(
    `| ${perMonth} | ${repeats} | ${months} | ${((100 * grows) / COUNT).toFixed(1)} % | ${((100 * covered) / COUNT).toFixed(1)} % |`,
  );
}
const undone = errorAfterMove(648, 5, saddleMoveMm(648, 5));
writeSection(
  'Octave',
  [
    `${COUNT} simulated strings, seed ${SEED}; stiffness, pressing and wear outside the estimator's law; three plucks a touch. 648 mm, +5.0 cents: ${saddleMoveMm(648, 5).toFixed(2)} mm, after which ${Math.abs(undone).toFixed(3)} cents remain.`,
    '',
    '| reading noise, cents | p95 of the first move | within 0.2 mm | within ±1 cent after one move | after two |',
    '|---|---|---|---|---|',
    ...rows,
    '',
    '| fault | noise | verdict right | otherwise |',
    '|---|---|---|---|',
    ...verdicts,
    '',
    '| growth, cents a month | repeats | months | called growing | 80 % interval covers the slope at the end |',
    '|---|---|---|---|---|',
    ...trends,
  ],
  (process.cpuUsage().user - started) / 1e6,
);
