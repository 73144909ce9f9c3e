import type { Stretch } from './hum';

/** Where one note sounds in a recording, s from its first sample, and how loud it is against the noise. */
export interface Section {
  onsetS: number;
  endS: number;
  peakRms: number;
  /** Rms of the quietest stretch: the noise, if there is any silence at all. */
  floorRms: number;
  /** The level keeps rising for a while after the onset, as under a bow. */
  slowAttack: boolean;
  /** The recording begins in the middle of the sound. */
  cutIn: boolean;
}

const HOP_S = 0.005;
/** Below this share of the note the floor needs no look. */
const AUDIBLE_FLOOR = 0.003;
/** A section above this share of the note's level is another note. */
const HUM_AT_MOST = 0.4;
/** A pluck has this share of its peak so soon, s, even where it beats and is loudest late; a bow has less (house estimates). */
const AT_ONCE = 0.6;
const SOON_S = 0.03;
/** A string whose level falls to this share within 20 ms, twice over, was stopped by the hand (house estimate). */
const DAMPED = 0.35;

/** Running rms in hops of 5 ms over a window of at least one period of the string. */
function envelope(samples: Float64Array, sampleRate: number, windowS: number): Float64Array {
  const hop = Math.max(1, Math.round(HOP_S * sampleRate));
  const hops = Math.floor(samples.length / hop);
  const power = new Float64Array(hops);
  for (let k = 0; k < hops; k++) {
    let sum = 0;
    for (let i = k * hop; i < (k + 1) * hop; i++) sum += samples[i]! * samples[i]!;
    power[k] = sum / hop;
  }
  const span = Math.max(1, Math.round(windowS / HOP_S));
  const out = new Float64Array(hops);
  let sum = 0;
  for (let k = 0; k < hops; k++) {
    sum += power[k]!;
    if (k >= span) sum -= power[k - span]!;
    out[k] = Math.sqrt(Math.max(0, sum) / Math.min(k + 1, span));
  }
  return out;
}

/**
 * Cuts a recording into sounding sections: a section starts where the level rises 9 dB within 40 ms and well above the
 * noise, and ends at the next start or where it has sunk into the noise or 40 dB below its peak. House design.
 * @param periodS the longest period the string may have
 * @param onsetS where the one note begins, when it is known
 */
export function findSections(samples: Float64Array, sampleRate: number, periodS: number, onsetS?: number): Section[] {
  const windowS = Math.max(0.01, periodS);
  const env = envelope(samples, sampleRate, windowS);
  if (env.length < 4) return [];
  const sorted = Float64Array.from(env).sort();
  const top = sorted[sorted.length - 1]!;
  const quietest = sorted[Math.floor(sorted.length * 0.03)]!;
  // A recording that sounds throughout shows no floor.
  const floorRms = quietest > 0.3 * top ? 0 : quietest;
  const audible = Math.max(1.5 * floorRms, top * 0.03);
  const stop = Math.round(windowS / HOP_S) + 4;
  const back = Math.max(8, stop);
  const starts: number[] = [];
  const cutIn = onsetS === undefined && env[Math.min(env.length - 1, 3)]! > 0.25 * top;
  if (cutIn) starts.push(0);
  if (onsetS !== undefined) starts.push(Math.min(env.length - 2, Math.round(onsetS / HOP_S)));
  else
    for (let k = 1; k < env.length; k++) {
      const before = env[Math.max(0, k - back)]!;
      if (env[k]! < audible || env[k]! < 2.2 * before) continue;
      const last = starts[starts.length - 1];
      if (last === undefined || k - last > 2 * back) starts.push(k);
    }
  if (starts.length === 0) {
    // A slow swell without any sudden rise: from where it first stands out.
    const k = env.findIndex((e) => e > Math.max(2 * floorRms, 0.2 * top));
    starts.push(Math.max(0, k));
  }
  return starts.map((start, i) => {
    const limit = starts[i + 1] ?? env.length;
    let peak = start;
    for (let k = start; k < limit; k++) if (env[k]! > env[peak]!) peak = k;
    const peakRms = env[peak]!;
    const least = Math.max(1.12 * floorRms, 0.01 * peakRms);
    let end = peak;
    for (let k = peak, quiet = 0; k < limit; k++) {
      quiet = env[k]! < least ? quiet + 1 : 0;
      if (quiet === 0) end = k + 1;
      if (quiet >= 6) break;
    }
    for (let k = peak + 1; k < end && k + 2 * stop < limit; k++) {
      if (env[k + stop]! > DAMPED * env[k]! || env[k + 2 * stop]! > DAMPED ** 2 * env[k]!) continue;
      end = k + 1;
      break;
    }
    if (starts[i + 1] !== undefined && end >= limit - 1) end = limit - back - 1;
    const isCutIn = cutIn && i === 0;
    const soon = Math.min(peak, start + Math.round((SOON_S + windowS) / HOP_S));
    return {
      onsetS: start * HOP_S,
      endS: Math.max(start + 1, end) * HOP_S,
      peakRms,
      floorRms,
      slowAttack: !isCutIn && (peak - start) * HOP_S > 0.12 + windowS && env[soon]! < AT_ONCE * peakRms,
      cutIn: isCutIn,
    };
  });
}

/** The section to measure: long and loud. */
export function chooseSection(sections: Section[]): Section | undefined {
  const loudest = Math.max(...sections.map((s) => s.peakRms));
  let best: Section | undefined;
  let bestMerit = 0;
  for (const s of sections) {
    const merit = Math.min(0.9, s.endS - s.onsetS) * Math.sqrt(s.peakRms / loudest);
    if (merit > 1.05 * bestMerit) {
      best = s;
      bestMerit = merit;
    }
  }
  return best;
}

/** Where no string sounds: before and after the chosen section, up to its neighbours; hum by itself is no neighbour. */
export function quietStretches(sections: Section[], rate: number, length: number): Stretch[] {
  const chosen = chooseSection(sections);
  if (!chosen || chosen.floorRms < AUDIBLE_FLOOR * chosen.peakRms) return [];
  const loud = sections.filter((s) => s.peakRms > HUM_AT_MOST * chosen.peakRms);
  const at = loud.indexOf(chosen);
  const before = loud[at - 1];
  const after = loud[at + 1];
  return [
    { from: before ? Math.ceil((before.endS + 0.05) * rate) : 0, to: Math.floor((chosen.onsetS - 0.02) * rate) },
    { from: Math.ceil((chosen.endS + 0.05) * rate), to: after ? Math.floor((after.onsetS - 0.02) * rate) : length },
  ];
}
