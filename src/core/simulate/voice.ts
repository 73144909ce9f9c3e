import type { Random } from './random';

/** What one pluck of one string sounds like. All of it is truth that the estimator is not told. */
export interface PluckSpec {
  /** First partial of the settled note, f0 sqrt(1 + B), Hz. */
  frequencyHz: number;
  inharmonicity: number;
  /** Where it is plucked, as a share of the speaking length from the bridge (0 to 0.5). */
  pluckAt: number;
  /** Amplitude law of the partials: n^-brightness. */
  rolloff: number;
  /** Decay time constant of the first partial, s; that of partial n is decayS / (1 + damping n^1.3). */
  decayS: number;
  damping: number;
  /** Second polarisation: amplitude share, offset in cents, and how much longer it rings. */
  secondShare: number;
  secondCents: number;
  secondLonger: number;
  /** The pluck's sharp start, cents: its tension rises with the square of the amplitude, and falls with the energy of the string. */
  glideCents: number;
  /** Peak of the pluck, of full scale. */
  level: number;
  /** Attack noise against the level. */
  attack: number;
  /** Offset of each partial from the stiff-string law by the body, cents (index 0 is the first partial). */
  bodyCents?: readonly number[];
  /** Rise time of the sound, s: 0 for a pluck, tenths of a second for a bow. A bowed note does not decay. */
  bowRiseS?: number;
  /** Periodic movement of the pitch: depth in cents, rate in Hz. */
  vibratoCents?: number;
  vibratoHz?: number;
  /** Only partials that are multiples of this number sound (2: touched at half length). */
  harmonic?: number;
}

/** A ringing string: call render again and again; its pitch may change from call to call while the tuner is turned. */
export interface Voice {
  /** Adds samples to out[from, to); pitchRatio multiplies the string's frequency for this stretch. */
  render(out: Float32Array, from: number, to: number, pitchRatio: number): void;
  /** Sound left, relative to the start (0 to 1). */
  loudness(): number;
  damp(): void;
}

const MAX_PARTIALS = 60;
const SUB_BLOCK = 32;

/** Starts a string sounding: a bank of decaying partials in two polarisations, with random initial phases. */
export function pluck(spec: PluckSpec, sampleRate: number, random: Random): Voice {
  const f0 = spec.frequencyHz / Math.sqrt(1 + spec.inharmonicity);
  const hz: number[] = [];
  const amplitude: number[] = [];
  const decayS: number[] = [];
  for (let n = 1; n <= MAX_PARTIALS; n++) {
    if (spec.harmonic && n % spec.harmonic !== 0) continue;
    const law = n * f0 * Math.sqrt(1 + spec.inharmonicity * n * n);
    if (law > 0.45 * sampleRate || law > 9000) break;
    const shift = spec.bodyCents?.[n - 1] ?? 0;
    const f = law * Math.pow(2, shift / 1200);
    const a =
      Math.abs(Math.sin(Math.PI * n * spec.pluckAt)) * Math.pow(n, -spec.rolloff) * (0.8 + 0.4 * random.uniform());
    if (a < 0.002) continue;
    const tau = spec.bowRiseS ? Infinity : spec.decayS / (1 + spec.damping * Math.pow(n, 1.3));
    hz.push(f);
    amplitude.push(a);
    decayS.push(tau);
    if (spec.secondShare > 0) {
      hz.push(f * Math.pow(2, (spec.secondCents * (0.5 + random.uniform())) / 1200));
      amplitude.push(a * spec.secondShare * (0.6 + 0.8 * random.uniform()));
      decayS.push(tau * spec.secondLonger);
    }
  }
  const sum = amplitude.reduce((s, a) => s + a * a, 0);
  const gain = (spec.level * 0.7) / Math.sqrt(sum / 2) / 2.2;
  const count = hz.length;
  const re = new Float64Array(count);
  const im = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const phase = 2 * Math.PI * random.uniform();
    re[i] = gain * amplitude[i]! * Math.cos(phase);
    im[i] = gain * amplitude[i]! * Math.sin(phase);
  }
  const energy = () => {
    let s = 0;
    for (let i = 0; i < count; i++) s += re[i]! * re[i]! + im[i]! * im[i]!;
    return s;
  };
  const start = energy();
  let age = 0;
  let attack = spec.attack * spec.level;
  let attackLow = 0;
  let dampFactor = 1;

  return {
    render(out, from, to, pitchRatio) {
      for (let begin = from; begin < to; begin += SUB_BLOCK) {
        const end = Math.min(to, begin + SUB_BLOCK);
        const t = age / sampleRate;
        const bend = spec.glideCents === 0 ? 0 : (spec.glideCents * energy()) / start;
        const wobble = (spec.vibratoCents ?? 0) * Math.sin(2 * Math.PI * (spec.vibratoHz ?? 5) * t);
        const ratio = pitchRatio * Math.pow(2, (bend + wobble) / 1200);
        const rise = spec.bowRiseS ? 1 - Math.exp(-t / spec.bowRiseS) : Math.min(1, t / 0.002);
        for (let i = 0; i < count; i++) {
          const w = (2 * Math.PI * hz[i]! * ratio) / sampleRate;
          if (w > 0.95 * Math.PI) continue;
          const shrink = Math.exp(-1 / (decayS[i]! * sampleRate)) * dampFactor;
          const c = Math.cos(w) * shrink;
          const s = Math.sin(w) * shrink;
          let a = re[i]!;
          let b = im[i]!;
          for (let k = begin; k < end; k++) {
            out[k]! += b * rise;
            const next = a * c - b * s;
            b = a * s + b * c;
            a = next;
          }
          re[i] = a;
          im[i] = b;
        }
        const fade = Math.exp(-1 / (0.006 * sampleRate));
        for (let k = begin; k < end && attack > 1e-6; k++) {
          attackLow += 0.25 * (random.normal() * attack - attackLow);
          out[k]! += attackLow;
          attack *= fade;
        }
        age += end - begin;
      }
    },
    loudness() {
      return Math.sqrt(energy() / start);
    },
    damp() {
      dampFactor = Math.exp(-1 / (0.012 * sampleRate));
    },
  };
}

/** Adds white room noise of the given rms. */
export function addNoise(out: Float32Array, rms: number, random: Random): void {
  for (let i = 0; i < out.length; i++) out[i]! += rms * random.normal();
}

/** Adds mains hum: odd and even lines falling as 1/k from the given level. */
export function addHum(out: Float32Array, sampleRate: number, mainsHz: number, level: number, random: Random): void {
  for (let k = 1; k <= 6; k++) {
    const w = (2 * Math.PI * mainsHz * k) / sampleRate;
    const phase = 2 * Math.PI * random.uniform();
    const a = (level / k) * (k % 2 ? 0.6 : 1);
    for (let i = 0; i < out.length; i++) out[i]! += a * Math.sin(w * i + phase);
  }
}
