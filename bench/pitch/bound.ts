/**
 * The error left to an estimator that is told the law and the priors of the benchmark's plucked strings (Bayesian
 * Cramer-Rao bound, Van Trees 1968, taken at the true parameters): what its recordings allow. `npm run bench:bound -- [strings] [seed]`
 */
import { inverse, Matrix } from 'ml-matrix';
import { quantile, rootMeanSquare } from 'simple-statistics';
import { glideS, phasePerCent } from '../../src/core/pitch/glide';
import { randomFrom, type PluckSpec, type Random } from '../../src/core/simulate';
import { writeSection } from '../report';
import { FAMILY_NAMES, stringSpec } from './cases';

const COUNT = Number(process.argv[2] ?? 12);
const SEED = Number(process.argv[3] ?? 1);
const SAMPLE_RATE = 44100;
const STEP_S = 0.002;
const DRAWS = 200;
const CENTS = 1200 / Math.LN2;
/** A partial's own parameters: both tones' sizes, decay, pitch; share of the decay spared, distance. */
const OWN = 8;
/** All partials': sharp start and its time constant, the second tone's distance and share, the string's pitch and ln B. */
const SHARED = 6;
const PITCH = 4;

interface Partial {
  n: number;
  hz: number;
  size: number;
  second: number;
  decay: number;
  apartCents: number;
  moved: boolean;
}

/** Partials as the simulator draws them (`pluck`): the same law, other draws. */
function partialsOf(spec: PluckSpec, random: Random): Partial[] {
  const f0 = spec.frequencyHz / Math.sqrt(1 + spec.inharmonicity);
  const list: Partial[] = [];
  for (let n = 1; n <= 28; n++) {
    const hz = n * f0 * Math.sqrt(1 + spec.inharmonicity * n * n);
    const size = Math.abs(Math.sin(Math.PI * n * spec.pluckAt)) * n ** -spec.rolloff * (0.8 + 0.4 * random.uniform());
    if (hz > 9000 || size < 0.002) continue;
    list.push({
      n,
      hz,
      size,
      second: size * spec.secondShare * (0.6 + 0.8 * random.uniform()),
      decay: (1 + spec.damping * n ** 1.3) / spec.decayS,
      apartCents: spec.secondCents * (0.5 + random.uniform()),
      moved: Math.abs(spec.bodyCents?.[n - 1] ?? 0) > 0.12,
    });
  }
  return list;
}

interface Stretch {
  fromS: number;
  toS: number;
  noiseDb: number;
  /** Of the family's sharp start. */
  glideShare?: number;
}

/**
 * Standard error of the first partial, cents.
 * @param usualGlide how large the sharp starts of such strings are, rms cents: all that is known of this one beforehand
 */
function boundCents(spec: PluckSpec, { fromS, toS, noiseDb }: Stretch, usualGlide: number, random: Random): number {
  const partials = partialsOf(spec, random);
  const spared = 1 - 1 / spec.secondLonger;
  // Noise against the loudness of the first half second, as in the recordings.
  const power = partials.reduce((s, p) => s + (0.5 * p.size ** 2 * (1 - Math.exp(-p.decay))) / p.decay, 0);
  const noise = Math.sqrt(power) * 10 ** (-noiseDb / 20);
  const worth = (SAMPLE_RATE * STEP_S) / (2 * noise ** 2);
  const told = Matrix.diag([1 / usualGlide ** 2, 1 / 0.55 ** 2, 1 / 0.3 ** 2, 1 / 0.11 ** 2, 1e-6, 1 / 1.2 ** 2]);
  for (const p of partials) {
    const perCent = phasePerCent(p.hz);
    const [u, v] = [2 * Math.PI * random.uniform(), 2 * Math.PI * random.uniform()];
    const information = Matrix.zeros(OWN + SHARED, OWN + SHARED);
    for (let t = fromS; t < toS; t += STEP_S) {
      const left = Math.exp(-t / spec.glideTauS);
      const glide = glideS(t, spec.glideTauS);
      const e = Math.exp(-p.decay * t);
      const f = Math.exp(-p.decay * (1 - spared) * t);
      const turn = perCent * p.apartCents * t;
      const one = [p.size * e * Math.cos(u), p.size * e * Math.sin(u)] as const;
      const two = [p.second * f * Math.cos(v + turn), p.second * f * Math.sin(v + turn)] as const;
      const [x, y] = [one[0] + two[0], one[1] + two[1]];
      const glideTurn = perCent * glide;
      const tauTurn = perCent * spec.glideCents * (glide - t * left);
      const slopes: [number, number][] = [
        [e, 0],
        [0, e],
        [-t * (one[0] + (1 - spared) * two[0]), -t * (one[1] + (1 - spared) * two[1])],
        [-perCent * t * y, perCent * t * x],
        [f * Math.cos(turn), f * Math.sin(turn)],
        [-f * Math.sin(turn), f * Math.cos(turn)],
        [t * p.decay * two[0], t * p.decay * two[1]],
        [-perCent * t * two[1], perCent * t * two[0]],
        [-glideTurn * y, glideTurn * x],
        [-tauTurn * y, tauTurn * x],
      ];
      slopes.forEach((a, i) =>
        slopes.forEach((b, j) => {
          information.set(i, j, information.get(i, j) + worth * (a[0] * b[0] + a[1] * b[1]));
        }),
      );
    }
    /** Own parameter i is the sum of shared ones, give or take a standard deviation. */
    const tie = (i: number, shares: [number, number][], sd: number): void => {
      const row = [[i, 1], ...shares.map(([k, share]) => [OWN + k, -share])] as [number, number][];
      for (const [a, va] of row)
        for (const [b, vb] of row) information.set(a, b, information.get(a, b) + (va * vb) / sd ** 2);
    };
    tie(4, [], 0.19 * p.size);
    tie(5, [], 0.19 * p.size);
    tie(6, [[3, 1]], 0.001);
    tie(7, [[2, 1]], Math.max(0.02, 0.29 * Math.abs(spec.secondCents)));
    const b = spec.inharmonicity;
    const bend = 0.5 * CENTS * ((b * p.n ** 2) / (1 + b * p.n ** 2) - b / (1 + b));
    tie(3, [[PITCH, 1], [5, bend]], p.moved ? 100 : 0.03); // prettier-ignore
    const own = information.subMatrix(0, OWN - 1, 0, OWN - 1).add(Matrix.eye(OWN).mul(1e-9));
    const across = information.subMatrix(0, OWN - 1, OWN, OWN + SHARED - 1);
    const shared = information.subMatrix(OWN, OWN + SHARED - 1, OWN, OWN + SHARED - 1);
    told.add(shared.sub(across.transpose().mmul(inverse(own)).mmul(across)));
  }
  return Math.sqrt(inverse(told).get(PITCH, PITCH));
}

const CASES: [string, Stretch][] = [
  ['clean, from 80 ms on', { fromS: 0.08, toS: 1.5, noiseDb: 50 }],
  ['noise 30 dB, from 80 ms on', { fromS: 0.08, toS: 1.5, noiseDb: 30 }],
  ['noise 15 dB, from 80 ms on', { fromS: 0.08, toS: 1.5, noiseDb: 15 }],
  ['clean, 80 to 400 ms', { fromS: 0.08, toS: 0.4, noiseDb: 50 }],
  ['clean, 30 to 150 ms', { fromS: 0.03, toS: 0.15, noiseDb: 50, glideShare: 0.2 }],
];
const lines = [
  `${COUNT} strings of each of the 8 plucked families, seed ${SEED}; cents.`,
  '',
  '| heard | median | RMSE | p95 |',
  '|---|---|---|---|',
];
for (const [name, stretch] of CASES) {
  const strings = FAMILY_NAMES.filter((f) => f !== 'bowed').flatMap((family, at) =>
    Array.from({ length: COUNT }, (_, s) => {
      const random = randomFrom(SEED + s + 1000 * at);
      const { spec } = stringSpec(family, random);
      spec.glideCents *= stretch.glideShare ?? 1;
      return { spec, random };
    }),
  );
  const usualGlide = rootMeanSquare(strings.map(({ spec }) => spec.glideCents));
  const errors = strings.flatMap(({ spec, random }) => {
    const sd = boundCents(spec, stretch, usualGlide, random);
    return Array.from({ length: DRAWS }, () => Math.abs(sd * random.normal()));
  });
  const cells = [quantile(errors, 0.5), rootMeanSquare(errors), quantile(errors, 0.95)].map((v) => v.toFixed(3));
  lines.push(`| ${[name, ...cells].join(' | ')} |`);
}
writeSection('Pitch: what the recordings allow', lines, process.cpuUsage().user / 1e6);
