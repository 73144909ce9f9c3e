import type { Comb } from '../partials/comb';
import { MAINS_HZ } from '../recording/hum';
import type { Peaks } from '../signal/peaks';
import type { Section } from '../recording/section';
import type { StiffFit } from '../partials/law';

export interface LongSpectrum {
  peaks: Peaks;
  hzPerBin: number;
  lobeBins: number;
}

const CENTS = 1200 / Math.LN2;

/** Amplitude of one steady frequency in samples[from, to) under a Hann window (Goertzel's sum). */
export function toneAmplitude(x: Float64Array, rate: number, from: number, to: number, frequencyHz: number): number {
  const n = to - from;
  const w = (2 * Math.PI * frequencyHz) / rate;
  let re = 0;
  let im = 0;
  for (let i = 0; i < n; i++) {
    const v = x[from + i]! * (0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / n));
    re += v * Math.cos(w * i);
    im -= v * Math.sin(w * i);
  }
  return (4 / n) * Math.hypot(re, im);
}

function mainsLine(frequencyHz: number, toleranceHz: number): boolean {
  return MAINS_HZ.some((m) => {
    const k = Math.round(frequencyHz / m);
    return k >= 1 && k <= 24 && Math.abs(frequencyHz - k * m) < toleranceHz;
  });
}

/** Mains lines do not decay: the level in the two halves of a stretch differs by less than 1 dB. */
function steady(x: Float64Array, rate: number, from: number, to: number, frequencyHz: number): boolean {
  const middle = (from + to) >> 1;
  const a = toneAmplitude(x, rate, from, middle, frequencyHz);
  const b = toneAmplitude(x, rate, middle, to, frequencyHz);
  return Math.abs(20 * Math.log10(b / a)) < 1;
}

/** Least silence before a note that shows whether its tone was there before, s. */
const LEAST_BEFORE_S = 0.08;

/** Above this frequency, Hz, hum is known by lower lines so loud against the strongest (house estimates). */
const HIGH_HZ = 200;
const LOW_LINES = 0.03;

/** Is the sound nothing but mains hum: on a multiple of 50 or 60 Hz, there before the note, and as loud at the end? */
export function isMainsHum(x: Float64Array, rate: number, comb: Comb, peaks: Peaks, section: Section): boolean {
  const strongest = comb.matches.reduce((a, c) => (peaks.amplitude[c.peak]! > peaks.amplitude[a.peak]! ? c : a));
  const hz = peaks.frequencyHz[strongest.peak]!;
  if (!mainsLine(hz, Math.max(0.15, 0.0012 * hz))) return false;
  // Hum has its low lines too; a high tone without them only lies near one.
  const low = (f: number, i: number) =>
    f < 0.9 * hz && mainsLine(f, 0.8) && peaks.amplitude[i]! > LOW_LINES * peaks.amplitude[strongest.peak]!;
  if (hz > HIGH_HZ && !peaks.frequencyHz.some(low)) return false;
  const onset = Math.floor((section.onsetS - 0.02) * rate);
  if (onset > LEAST_BEFORE_S * rate) {
    const before = toneAmplitude(x, rate, 0, onset, hz);
    const after = toneAmplitude(x, rate, Math.ceil(section.onsetS * rate), Math.floor(section.endS * rate), hz);
    if (after > 2 * before) return false;
  }
  const quarter = x.length >> 2;
  const first = toneAmplitude(x, rate, 0, quarter, hz);
  const last = toneAmplitude(x, rate, x.length - quarter, x.length, hz);
  return Math.abs(20 * Math.log10(last / first)) < 1;
}

/**
 * Share of the tonal power that the string's comb does not explain: one peak a tooth belongs to the string, others do not.
 * Mains lines (steady, on multiples of 50 or 60 Hz) are left out of the account.
 * @param apartCents two peaks on one tooth that lie further apart belong to two strings
 */
export function offCombShare(
  { x, rate, section }: { x: Float64Array; rate: number; section: Section },
  { peaks, hzPerBin, lobeBins, from, to }: LongSpectrum & { from: number; to: number },
  fit: StiffFit,
  apartCents: number,
): number {
  const f0 = fit.firstPartialHz / Math.sqrt(1 + fit.b);
  const resolutionHz = lobeBins * hzPerBin;
  let on = 0;
  let off = 0;
  const teeth = new Map<number, { hz: number; power: number }>();
  peaks.frequencyHz.forEach((hz, i) => {
    const power = peaks.amplitude[i]! ** 2;
    let n = Math.max(1, Math.round(hz / f0));
    for (let k = 0; k < 3; k++) n = Math.max(1, Math.round(hz / (f0 * Math.sqrt(1 + fit.b * n * n))));
    const expect = n * f0 * Math.sqrt(1 + fit.b * n * n);
    const tolerance = Math.min(0.2 * f0, Math.max(0.015 * expect, resolutionHz));
    if (Math.abs(hz - expect) < tolerance) {
      const before = teeth.get(n);
      if (!before || power > before.power) teeth.set(n, { hz, power });
      on += power;
      // A second peak on one tooth: the same partial of another string a few cents away.
      if (before && Math.abs(Math.log(hz / before.hz)) * CENTS > apartCents) off += 2 * Math.min(power, before.power);
      return;
    }
    if (mainsLine(hz, 0.8) && (section.cutIn || steady(x, rate, from, to, hz))) return;
    off += power;
  });
  return off / Math.max(1e-300, on + off);
}
