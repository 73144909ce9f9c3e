/**
 * Recordings with known truth, made outside the estimator's own law: body-coupled partials, two polarisations, sharp
 * starts, noise, hum, slack strings, short plucks; and bad input that must be refused.
 */
import { addHum, addNoise, pluck, randomFrom, type PluckSpec, type Random } from '../../src/core/simulate';

export interface Recording {
  group: string;
  samples: Float32Array;
  sampleRate: number;
  targetHz: number;
  /** First partial of the settled note; undefined where the only right answer is a refusal. */
  truthHz?: number;
  onsetS: number;
  stiff: boolean;
  /** Where samples are lost; a reading that ends before is sound. */
  gapS?: number;
}

export type Family = 'nylon' | 'steel' | 'wound' | 'bass' | 'banjo' | 'harp' | 'bowed' | 'pizzicato' | 'gut';

interface Ranges {
  midi: [number, number];
  b: [number, number];
  decay: [number, number];
  damping: [number, number];
  rolloff: [number, number];
  body: number;
  glide: number;
  stiff: boolean;
}

const FAMILIES: Record<Family, Ranges> = {
  nylon: {
    midi: [45, 76],
    b: [3e-6, 8e-5],
    decay: [0.5, 2],
    damping: [0.15, 0.5],
    rolloff: [0.9, 1.6],
    body: 0.5,
    glide: 2,
    stiff: false,
  },
  steel: {
    midi: [52, 86],
    b: [1e-5, 3e-4],
    decay: [0.8, 3],
    damping: [0.05, 0.2],
    rolloff: [0.6, 1.2],
    body: 0.3,
    glide: 5,
    stiff: true,
  },
  wound: {
    midi: [36, 62],
    b: [2e-5, 2e-4],
    decay: [1, 4],
    damping: [0.05, 0.15],
    rolloff: [0.6, 1.2],
    body: 0.3,
    glide: 6,
    stiff: true,
  },
  bass: {
    midi: [23, 43],
    b: [5e-5, 6e-4],
    decay: [1.5, 5],
    damping: [0.03, 0.1],
    rolloff: [0.6, 1.3],
    body: 0.2,
    glide: 6,
    stiff: true,
  },
  banjo: {
    midi: [48, 74],
    b: [1e-5, 2e-4],
    decay: [0.15, 0.5],
    damping: [0.1, 0.3],
    rolloff: [0.4, 0.9],
    body: 10,
    glide: 6,
    stiff: true,
  },
  harp: {
    midi: [40, 88],
    b: [2e-6, 6e-5],
    decay: [0.6, 2],
    damping: [0.1, 0.4],
    rolloff: [1, 1.8],
    body: 0.4,
    glide: 3,
    stiff: false,
  },
  bowed: {
    midi: [36, 76],
    b: [1e-6, 2e-5],
    decay: [2, 3],
    damping: [0, 0.01],
    rolloff: [0.8, 1.2],
    body: 0,
    glide: 0,
    stiff: false,
  },
  pizzicato: {
    midi: [36, 76],
    b: [1e-5, 1e-4],
    decay: [0.12, 0.4],
    damping: [0.1, 0.4],
    rolloff: [0.8, 1.4],
    body: 0.8,
    glide: 3,
    stiff: false,
  },
  gut: {
    midi: [40, 76],
    b: [1e-5, 8e-5],
    decay: [0.3, 1.2],
    damping: [0.2, 0.6],
    rolloff: [0.9, 1.5],
    body: 0.5,
    glide: 3,
    stiff: false,
  },
};
export const FAMILY_NAMES = Object.keys(FAMILIES) as Family[];

const logBetween = (r: Random, [a, b]: [number, number]) => a * Math.pow(b / a, r.uniform());
const midiHz = (m: number) => 440 * Math.pow(2, (m - 69) / 12);

function stringSpec(family: Family, r: Random): { spec: PluckSpec; targetHz: number; stiff: boolean } {
  const f = FAMILIES[family];
  const targetHz = midiHz(Math.round(r.between(f.midi[0], f.midi[1])));
  const frequencyHz = targetHz * Math.pow(2, r.between(-60, 40) / 1200);
  // Body resonances push the partials near them apart; banjo heads by many cents.
  const resonances = Array.from({ length: 5 }, () => logBetween(r, [90, 5000]));
  const bodyCents = Array.from({ length: 60 }, (_, i) => {
    const hz = frequencyHz * (i + 1);
    return resonances.reduce((s, c) => {
      const d = (hz - c) / (0.03 * c);
      return Math.abs(d) < 3 ? s + (f.body * 2 * d) / (1 + d * d) : s;
    }, 0.03 * r.normal());
  });
  const spec: PluckSpec = {
    frequencyHz,
    inharmonicity: logBetween(r, f.b),
    pluckAt: r.between(0.06, 0.28),
    rolloff: r.between(...f.rolloff),
    decayS: logBetween(r, f.decay) * Math.pow(220 / frequencyHz, 0.3),
    damping: logBetween(r, [Math.max(1e-3, f.damping[0]), f.damping[1]]),
    secondShare: family === 'bowed' ? 0 : r.between(0.05, 0.45),
    secondCents: 0.3 * r.normal(),
    secondLonger: r.between(1.5, 3.5),
    glideCents: f.glide * r.uniform() ** 2 * 2,
    level: r.between(0.1, 0.7),
    attack: r.between(0, 0.3),
    bodyCents,
    ...(family === 'bowed' ? { bowRiseS: r.between(0.04, 0.15) } : {}),
  };
  return { spec, targetHz, stiff: f.stiff };
}

export function render(
  specs: PluckSpec[],
  sampleRate: number,
  seconds: number,
  r: Random,
  { leadS = 0.25, stopS = Infinity, noiseRms = 0.0003 } = {},
): Float32Array {
  const out = new Float32Array(Math.round(seconds * sampleRate));
  const from = Math.round(leadS * sampleRate);
  const stop = Math.min(out.length, from + Math.round(stopS * sampleRate));
  for (const spec of specs) {
    const voice = pluck(spec, sampleRate, r);
    voice.render(out, from, stop, 1);
    voice.damp();
    if (stop < out.length) voice.render(out, stop, out.length, 1);
  }
  addNoise(out, noiseRms, r);
  return out;
}

const rmsOf = (x: Float32Array, from: number) => {
  let s = 0;
  const n = Math.min(x.length - from, 22050);
  for (let i = from; i < from + n; i++) s += x[i]! ** 2;
  return Math.sqrt(s / n);
};

export function goodRecording(group: string, family: Family, seed: number): Recording {
  const r = randomFrom(seed);
  const { spec, targetHz, stiff } = stringSpec(family, r);
  const rates = [22050, 44100, 44100, 48000];
  let sampleRate = rates[Math.floor(r.uniform() * rates.length)]!;
  const leadS = r.between(0.1, 0.4);
  const seconds = leadS + r.between(1.3, 3);
  let target = targetHz;
  if (group === 'rates') sampleRate = [8000, 11025, 16000, 96000, 192000][Math.floor(r.uniform() * 5)]!;
  if (group === 'slack') {
    spec.frequencyHz *= Math.pow(2, -r.between(1, 11) / 12);
  }
  if (group === 'harmonic') {
    spec.harmonic = 2;
    spec.pluckAt = 0.12;
    target = targetHz * 2;
  }
  const x = render([spec], sampleRate, seconds, r, { leadS, stopS: Infinity, noiseRms: 0 });
  const level = rmsOf(x, Math.round(leadS * sampleRate));
  const db = group === 'noise 15 dB' ? 15 : group === 'noise 30 dB' ? 30 : 50;
  addNoise(x, level * Math.pow(10, -db / 20), r);
  if (group === 'hum')
    addHum(x, sampleRate, (r.uniform() < 0.5 ? 50 : 60) + r.between(-0.04, 0.04), level * r.between(0.03, 0.2), r);
  if (group === 'clipped') {
    const limit = spec.level * r.between(0.15, 0.5);
    for (let i = 0; i < x.length; i++) x[i] = Math.max(-limit, Math.min(limit, x[i]!)) / limit;
  }
  return {
    group,
    samples: x,
    sampleRate,
    targetHz: target,
    truthHz: spec.frequencyHz * (spec.harmonic ? harmonicRatio(spec) : 1),
    onsetS: leadS,
    stiff,
  };
}

/** Second partial of a stiff string over its first: 2 sqrt((1 + 4B) / (1 + B)). */
function harmonicRatio(spec: PluckSpec): number {
  return 2 * Math.sqrt((1 + 4 * spec.inharmonicity) / (1 + spec.inharmonicity));
}

export const BAD_GROUPS = [
  'two strings',
  'octave pair',
  'near unison',
  'hum only',
  'noise only',
  'silence',
  'speech-like',
  'knock',
  'vibrato',
  'gap',
  'turning',
] as const;

export function badRecording(group: (typeof BAD_GROUPS)[number], seed: number): Recording {
  const r = randomFrom(seed);
  const plucked = FAMILY_NAMES.filter((f) => f !== 'bowed' && f !== 'banjo');
  const family = plucked[Math.floor(r.uniform() * plucked.length)]!;
  const { spec, targetHz, stiff } = stringSpec(family, r);
  const sampleRate = 44100;
  const base = { group, sampleRate, targetHz, onsetS: 0.25, stiff };
  const second = (centsApart: number): PluckSpec => ({
    ...spec,
    frequencyHz: spec.frequencyHz * Math.pow(2, centsApart / 1200),
    level: spec.level * r.between(0.6, 1),
    inharmonicity: spec.inharmonicity * r.between(0.4, 2.5),
    pluckAt: r.between(0.06, 0.28),
  });
  if (group === 'two strings') {
    const steps = [2, 3, 4, 5, 7, 8, 9, -5, -4, -7][Math.floor(r.uniform() * 10)]!;
    return { ...base, samples: render([spec, second(steps * 100 + r.between(-15, 15))], sampleRate, 2.2, r) };
  }
  if (group === 'octave pair')
    return {
      ...base,
      samples: render([spec, second(1200 + (r.uniform() < 0.5 ? -1 : 1) * r.between(5, 25))], sampleRate, 2.2, r),
    };
  if (group === 'near unison')
    return {
      ...base,
      samples: render([spec, second((r.uniform() < 0.5 ? -1 : 1) * r.between(8, 30))], sampleRate, 2.2, r),
    };
  const out = new Float32Array(2 * sampleRate);
  if (group === 'hum only') {
    addHum(out, sampleRate, r.uniform() < 0.5 ? 50 : 60, r.between(0.01, 0.2), r);
    addNoise(out, 0.0005, r);
  } else if (group === 'noise only') {
    addNoise(out, r.between(0.005, 0.2), r);
  } else if (group === 'silence') {
    addNoise(out, r.uniform() < 0.5 ? 0 : 1e-5, r);
  } else if (group === 'speech-like') {
    let phase = 0;
    let f = r.between(90, 220);
    for (let i = 0; i < out.length; i++) {
      const t = i / sampleRate;
      f += 0.02 * r.normal() + 0.004 * Math.sin(2 * Math.PI * 0.9 * t) * f * 0.05;
      phase += (2 * Math.PI * f * (1 + 0.08 * Math.sin(2 * Math.PI * 2.3 * t))) / sampleRate;
      let v = 0;
      for (let n = 1; n <= 12; n++) v += Math.sin(n * phase) / n;
      out[i] = 0.1 * v * Math.max(0, Math.sin(2 * Math.PI * 3.7 * t)) ** 0.5;
    }
    addNoise(out, 0.001, r);
  } else if (group === 'knock') {
    const modes = Array.from({ length: 6 }, () => ({
      f: logBetween(r, [70, 1500]),
      tau: r.between(0.01, 0.06),
      a: r.uniform(),
    }));
    for (let i = Math.round(0.25 * sampleRate); i < out.length; i++) {
      const t = i / sampleRate - 0.25;
      for (const m of modes) out[i]! += 0.2 * m.a * Math.exp(-t / m.tau) * Math.sin(2 * Math.PI * m.f * t);
    }
    addNoise(out, 0.0005, r);
  } else if (group === 'vibrato') {
    return {
      ...base,
      samples: render(
        [{ ...spec, decayS: 2, vibratoCents: r.between(8, 25), vibratoHz: r.between(4, 7) }],
        sampleRate,
        2.2,
        r,
      ),
    };
  } else if (group === 'turning') {
    const voice = pluck({ ...spec, decayS: 2 }, sampleRate, r);
    const rate = (r.uniform() < 0.5 ? -1 : 1) * r.between(25, 120);
    for (let i = Math.round(0.25 * sampleRate); i < out.length; i += 64)
      voice.render(out, i, Math.min(out.length, i + 64), Math.pow(2, (rate * (i / sampleRate)) / 1200));
    addNoise(out, 0.0003, r);
  } else {
    const x = render([spec], sampleRate, 2, r);
    const at = Math.round(r.between(0.5, 0.8) * sampleRate);
    const long = Math.round(r.between(0.005, 0.05) * sampleRate);
    x.fill(0, at, at + long);
    return { ...base, samples: x, gapS: at / sampleRate };
  }
  return { ...base, samples: out };
}

/** Two plucks of one string, plucked elsewhere and otherwise, the second moved by a known amount. */
export function changePair(family: Family, seed: number): { from: Recording; to: Recording; changeCents: number } {
  const r = randomFrom(seed * 13 + 5);
  const { spec, targetHz, stiff } = stringSpec(family, r);
  const changeCents = r.between(-12, 3);
  const again: PluckSpec = {
    ...spec,
    frequencyHz: spec.frequencyHz * Math.pow(2, changeCents / 1200),
    pluckAt: r.between(0.06, 0.28),
    level: spec.level * r.between(0.5, 1),
    glideCents: spec.glideCents * r.uniform(),
    secondShare: spec.secondShare * r.between(0.5, 1),
  };
  const [from, to] = [spec, again].map((s): Recording => {
    const samples = render([s], 44100, 1.8, r, { noiseRms: 0.0006 });
    return { group: 'change', samples, sampleRate: 44100, targetHz, truthHz: s.frequencyHz, onsetS: 0.25, stiff };
  });
  return { from: from!, to: to!, changeCents };
}
