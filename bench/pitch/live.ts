/** The live trace: its pace, its cost, how it follows a turning hand and a dying note. `npm run bench:live` */
import { createListener, type TrackPoint } from '../../src/core/pitch';
import { addNoise, pluck, randomFrom, type PluckSpec } from '../../src/core/simulate';
import { writeSection } from '../report';
import { clamp } from '../../src/core/base';

const RATE = 48000;
const BLOCK = 1024;
const SECONDS = 8;
const SLIDE_FROM_S = 1;
const SLIDE_S = 2;

/** Seven semitones up to the target in two seconds, then let ring to the end. */
const course = (s: number) => -700 + 700 * clamp((s - SLIDE_FROM_S) / SLIDE_S, 0, 1);

function follow(targetHz: number, seed: number) {
  const random = randomFrom(seed);
  const spec: PluckSpec = {
    frequencyHz: targetHz,
    inharmonicity: 8e-5,
    pluckAt: 0.15,
    rolloff: 1.1,
    decayS: 1.7,
    damping: 0.08,
    secondShare: 0.2,
    secondCents: 0.2,
    secondLonger: 1.2,
    glideCents: 3,
    level: 0.6,
    attack: 0.1,
  };
  const voice = pluck(spec, RATE, random);
  const listener = createListener(RATE);
  listener.setTask({
    named: { id: 's', name: 's', targetHz },
    others: [],
    reach: { lowCents: -1250, highCents: 560 },
  });
  const points: TrackPoint[] = [];
  let cpu = 0;
  for (let at = 0; at < SECONDS * RATE; at += BLOCK) {
    const block = new Float32Array(BLOCK);
    if (at > 0.3 * RATE) {
      for (let k = 0; k < BLOCK; k += 64) voice.render(block, k, k + 64, Math.pow(2, course((at + k) / RATE) / 1200));
    }
    addNoise(block, 0.00002, random);
    const before = process.cpuUsage().user;
    const heard = listener.push(block, false);
    cpu += process.cpuUsage().user - before;
    for (const h of heard) if (h.kind === 'track') points.push(...h.points);
  }
  const sliding = points.filter((p) => p.tS > SLIDE_FROM_S && p.tS < SLIDE_FROM_S + SLIDE_S);
  const off = sliding.flatMap((p) => (p.cents === null ? [] : [Math.abs(p.cents - course(p.tS))]));
  const top = Math.max(...points.map((p) => p.levelDb));
  const heardToDb = Math.min(...points.filter((p) => p.cents !== null).map((p) => p.levelDb)) - top;
  return {
    cpuShare: cpu / 1e6 / SECONDS,
    rate: points.length / SECONDS,
    lost: 1 - off.length / sliding.length,
    jumps: off.filter((e) => e > 60).length,
    medianOff: off.sort((a, b) => a - b)[off.length >> 1] ?? NaN,
    heardToDb,
  };
}

const lines = [
  'A slide of 7 semitones in 2 s to the target, then left to ring; simulated, 48 kHz.',
  '',
  '| string | points a second | share of one core | lost while sliding | jumps over 60 cents | median off, cents | followed down to |',
  '|---|---|---|---|---|---|---|',
];
for (const [name, hz] of [
  ['B0', 30.87],
  ['E2', 82.41],
  ['G3', 196],
  ['E4', 329.63],
  ['E6', 1318.5],
] as const) {
  const r = follow(hz, 7);
  const percent = (x: number) => `${(100 * x).toFixed(0)} %`;
  lines.push(
    `| ${[name, r.rate.toFixed(0), percent(r.cpuShare), percent(r.lost), r.jumps, r.medianOff.toFixed(1), `${r.heardToDb.toFixed(0)} dB`].join(' | ')} |`,
  );
}
writeSection('Live trace', lines, process.cpuUsage().user / 1e6);
