import { cents, ratioOfCents } from '../music';
import {
  amplitudeSpectrum,
  decimate,
  findGap,
  findPeaks,
  findSections,
  lastClippedSample,
  powerOfTwo,
  quietStretches,
  withoutHum,
  type Peaks,
  type Section,
} from '../pitch';
import { bandsOf, type Band, type Bands } from './bands';
import { decayOf, fitTones, type Fit, type Tone } from './tones';

export type PairReason =
  'one-string' | 'too-short' | 'too-quiet' | 'no-pitch' | 'clipped' | 'gap' | 'other-notes' | 'hum';

/** Two strings heard together. */
export interface PairReading {
  ok: true;
  /** How far b over a stands from the pure ratio, of the settled first partials, cents; b too sharp is positive. */
  cents: number;
  sigmaCents: number;
  /** In a unison it can only be told which is which where the first one sounded alone. */
  signKnown: boolean;
  /** Beats of the lowest pair of partials that sounds, a second. */
  beatsHz: number;
  aHz: number;
  bHz: number;
}
export type PairOutcome = PairReading | { ok: false; reason: PairReason; message: string };

export interface PairOptions {
  aHz: number;
  bHz: number;
  /** b over a is to be p over q. */
  ratio: readonly [number, number];
}

const MESSAGES: Record<PairReason, string> = {
  'one-string': 'One string is heard: let both ring.',
  'too-short': 'It rang too short: let both ring on.',
  'too-quiet': 'It is too quiet: pluck harder, or nearer to the microphone.',
  'no-pitch': 'No string is heard.',
  clipped: 'It is too loud for the input: pluck softer.',
  gap: 'Sound is missing in the middle: play it again.',
  'other-notes': 'Other notes sound too: mute the others, and look which two are asked for.',
  hum: 'Mains hum is all that is heard.',
};
const refusal = (reason: PairReason): PairOutcome => ({ ok: false, reason, message: MESSAGES[reason] });

/** Both strings as combs of stiff partials. */
interface Comb {
  /** n-th partial: n f0 sqrt(1 + B n^2), Hz. */
  f0: number;
  b: number;
}
const partialOf = ({ f0, b }: Comb, n: number): number => n * f0 * Math.sqrt(1 + b * n * n);

/** Where partials of either string lie: of one alone, or of both together. */
interface Line {
  n: number | undefined;
  m: number | undefined;
}

const SILENT = 2e-4;
const HIGHEST_HZ = 5000;
const MOST_PARTIALS = 14;
/** Further off than this it is another note, cents. */
const WITHIN_CENTS = 60;
const SEARCH_CENTS = 75;
/** Stiffness that strings have (house estimates). */
const STIFF = [0, 1e-5, 3e-5, 6e-5, 1.2e-4, 2.5e-4, 5e-4, 1e-3];
/** What is read: from so long after the attack, for so long, s. */
const ATTACK_S = 0.12;
const SECOND_AFTER_S = 0.55;
const READ_S = 2.5;
const LEAST_S = 0.3;

interface Take {
  bands: Bands;
  fromS: number;
  toS: number;
  topHz: number;
  ratio: readonly [number, number];
}

/** Partials of one string that the other one has nothing beside. */
const freeOf = (every: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) => i + 1).filter((n) => n % every !== 0);

/** Comb that the peaks fit best around a frequency. @param numbers which partials are looked at */
function combNear(
  peaks: Peaks,
  aroundHz: number,
  numbers: readonly number[],
  topHz: number,
  hzPerBin: number,
): { comb: Comb; score: number } {
  let best = { comb: { f0: aroundHz, b: 0 }, score: 0 };
  const strength = peaks.amplitude.map((a, i) => Math.log1p(a / (3 * peaks.floor[i]!)));
  for (const b of STIFF)
    for (let c = -SEARCH_CENTS; c <= SEARCH_CENTS; c += 1) {
      const comb = { f0: (aroundHz * ratioOfCents(c)) / Math.sqrt(1 + b), b };
      let score = 0;
      for (const n of numbers) {
        const f = partialOf(comb, n);
        if (f > topHz) break;
        const at = nearestPeak(peaks.frequencyHz, f);
        if (at < 0) continue;
        const off = Math.abs(peaks.frequencyHz[at]! - f);
        const reach = Math.max(1.2 * hzPerBin, f * 0.0015);
        if (off < 2 * reach) score += (strength[at]! * (1 - (off / (2 * reach)) ** 2)) / Math.sqrt(n);
      }
      // A stiffer comb must earn itself.
      score *= 1 - 20 * b;
      if (score > best.score) best = { comb, score };
    }
  return best;
}
function nearestPeak(sorted: readonly number[], f: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (sorted[mid]! < f) low = mid + 1;
    else high = mid;
  }
  const before = low > 0 ? Math.abs(sorted[low - 1]! - f) : Infinity;
  const after = low < sorted.length ? Math.abs(sorted[low]! - f) : Infinity;
  return Math.min(before, after) === Infinity ? -1 : before < after ? low - 1 : low;
}

interface Cluster extends Line {
  band: Band;
  /** Of a single line, or of both tones. */
  decays: number[];
}

/** Bands round every line that lies free of others. */
function clustersOf(take: Take, a: Comb, b: Comb): Cluster[] {
  const { bands, fromS, toS, topHz, ratio } = take;
  const [p, q] = ratio;
  const lines: (Line & { hz: number })[] = [];
  for (let n = 1; n <= MOST_PARTIALS * p && partialOf(a, n) < topHz; n++) {
    const shared = n % p === 0;
    const m = shared ? (n / p) * q : undefined;
    lines.push({ n, m, hz: m === undefined ? partialOf(a, n) : (partialOf(a, n) + partialOf(b, m)) / 2 });
  }
  for (let m = 1; m <= MOST_PARTIALS * q && partialOf(b, m) < topHz; m++)
    if (m % q !== 0) lines.push({ n: undefined, m, hz: partialOf(b, m) });
  lines.sort((x, y) => x.hz - y.hz);
  const lasts = toS - fromS;
  return lines.flatMap(({ n, m, hz }, i) => {
    const room = Math.min(hz - (lines[i - 1]?.hz ?? 0), (lines[i + 1]?.hz ?? Infinity) - hz);
    const wanted = Math.max(
      12 / lasts,
      n !== undefined && m !== undefined ? 2.6 * Math.abs(partialOf(a, n) - partialOf(b, m)) : 0,
      0.03 * hz,
    );
    const halfHz = Math.min(wanted, 0.9 * room, 90);
    // Too near to another line to be parted from it.
    if (halfHz < 5 / lasts) return [];
    const band = bands.band(hz, halfHz, fromS, toS);
    const decay = decayOf(band);
    return [{ n, m, band, decays: n !== undefined && m !== undefined ? [decay, decay] : [decay] }];
  });
}

const tonesOf = ({ n, m, band, decays }: Cluster, a: Comb, b: Comb): Tone[] =>
  [n === undefined ? undefined : partialOf(a, n), m === undefined ? undefined : partialOf(b, m)]
    .filter((f) => f !== undefined)
    .map((f, k) => ({ hz: f - band.centreHz, decay: decays[k]! }));

/** The second string where it has no partial of its own: what a tone beside the first string's explains, by its deviation. */
function secondString(take: Take, first: Comb, of: 'a' | 'b', aroundHz: number): { comb: Comb; gain: number } {
  const [p, q] = take.ratio;
  const [every, others] = of === 'a' ? [p, q] : [q, p];
  const tables: { table: Float64Array; fromHz: number; stepHz: number; partial: number }[] = [];
  for (let j = 1; j <= MOST_PARTIALS; j++) {
    const hz = partialOf(first, every * j);
    const m = others * j;
    if (hz > take.topHz || m * aroundHz > take.topHz * 1.05) break;
    const reach = m * aroundHz * (ratioOfCents(WITHIN_CENTS + 8) - 1);
    const room = Math.min(hz / (every * j), (m * aroundHz) / m);
    const halfHz = Math.min(Math.max(2.2 * reach, 10 / (take.toS - take.fromS)), 0.95 * room, 160);
    const band = take.bands.band(hz, halfHz, take.fromS, take.toS);
    const decay = decayOf(band);
    const own = { hz: hz - band.centreHz, decay };
    const alone = fitTones(band, [own]).left;
    const stepHz = 0.2 / (take.toS - take.fromS);
    const count = Math.ceil(halfHz / stepHz);
    const table = new Float64Array(count + 1);
    for (let k = 0; k <= count; k++) {
      const tone = { hz: -halfHz / 2 + k * stepHz, decay };
      table[k] = Math.min(60, Math.log(alone / fitTones(band, [own, tone]).left) * 12);
    }
    tables.push({ table, fromHz: band.centreHz - halfHz / 2, stepHz, partial: m });
  }
  let best = { comb: { f0: aroundHz, b: 0 }, gain: 0 };
  for (const b of STIFF)
    for (let c = -WITHIN_CENTS - 5; c <= WITHIN_CENTS + 5; c += 0.5) {
      const comb = { f0: (aroundHz * ratioOfCents(c)) / Math.sqrt(1 + b), b };
      let gain = 0;
      for (const { table, fromHz, stepHz, partial } of tables) {
        const at = (partialOf(comb, partial) - fromHz) / stepHz;
        const k = Math.floor(at);
        if (k < 0 || k + 1 >= table.length) continue;
        gain += table[k]! + (at - k) * (table[k + 1]! - table[k]!);
      }
      gain *= 1 - 20 * b;
      if (gain > best.gain) best = { comb, gain };
    }
  return best;
}

interface Theta {
  a: Comb;
  b: Comb;
}
/** Steps for numeric derivatives: cents of a, of b; stiffness in units of 1e-5. */
const STEP = [0.02, 0.02, 0.05, 0.05];
const STIFF_UNIT = 1e-5;
const moved = ({ a, b }: Theta, by: readonly number[]): Theta => ({
  a: { f0: a.f0 * ratioOfCents(by[0]!), b: Math.max(0, a.b + by[2]! * STIFF_UNIT) },
  b: { f0: b.f0 * ratioOfCents(by[1]!), b: Math.max(0, b.b + by[3]! * STIFF_UNIT) },
});

/** Deviation of b over a from the pure ratio, of first partials, cents. */
const deviation = ({ a, b }: Theta, [p, q]: readonly [number, number]): number =>
  cents(partialOf(b, 1), (partialOf(a, 1) * p) / q);

/** Each cluster's decays by coordinate steps, frequencies held. */
function refineDecays(c: Cluster, theta: Theta): void {
  for (let k = 0; k < c.decays.length; k++)
    for (const factor of [0.6, 0.8, 1.25, 1.6]) {
      const before = fitTones(c.band, tonesOf(c, theta.a, theta.b)).left;
      const kept = c.decays[k]!;
      c.decays[k] = Math.max(0.02, kept * factor);
      if (fitTones(c.band, tonesOf(c, theta.a, theta.b)).left >= before) c.decays[k] = kept;
    }
}

/** What is seen of a cluster when both of its tones are let free near where the law has them: their frequencies and how sure. */
interface Seen {
  n: number | undefined;
  m: number | undefined;
  hz: number[];
  sdHz: number[];
  amplitude: number[];
  /** Share of the band's energy that the tones explain. */
  explained: number;
}
/** A band is looked at where its tones explain most of it, and stand out from the loudest of all. */
const EXPLAINED = 0.7;
const FAINT = 1e-3;
/** Partials of real strings stand off the law by this much, cents (bodies, house estimate). */
const OFF_LAW_CENTS = 1.2;

/** One cluster by itself: Gauss-Newton on the tones' frequencies, held to the law within what bodies do. */
function look(c: Cluster, theta: Theta): Seen {
  const law = tonesOf(c, theta.a, theta.b);
  let tones = law;
  const n = c.band.re.length;
  const k = tones.length;
  const from = { re: new Float64Array(n), im: new Float64Array(n) };
  const to = { re: new Float64Array(n), im: new Float64Array(n) };
  const h = 0.01 * (c.band.rate / n);
  const heldHz = law.map((t) => (t.hz + c.band.centreHz) * (ratioOfCents(OFF_LAW_CENTS) - 1));
  let fit: Fit = fitTones(c.band, tones, from);
  let normal = [0, 0, 0];
  const freedom = Math.max(2, 2 * n * USEFUL - 4 * k);
  for (let round = 0; round < 5; round++) {
    const variance = fit.left / freedom;
    const slopes: { re: Float64Array; im: Float64Array }[] = [];
    for (let t = 0; t < k; t++) {
      fitTones(
        c.band,
        tones.map((x, i) => (i === t ? { ...x, hz: x.hz + h } : x)),
        to,
      );
      slopes.push({ re: to.re.map((v, i) => (v - from.re[i]!) / h), im: to.im.map((v, i) => (v - from.im[i]!) / h) });
    }
    const dot = (x: { re: Float64Array; im: Float64Array }, y: { re: Float64Array; im: Float64Array }) => {
      let s = 0;
      for (let i = 0; i < n; i++) s += x.re[i]! * y.re[i]! + x.im[i]! * y.im[i]!;
      return s / variance;
    };
    const right = slopes.map((s, t) => -dot(s, from) + (law[t]!.hz - tones[t]!.hz) / heldHz[t]! ** 2);
    normal = [
      dot(slopes[0]!, slopes[0]!) + 1 / heldHz[0]! ** 2,
      k > 1 ? dot(slopes[0]!, slopes[1]!) : 0,
      k > 1 ? dot(slopes[1]!, slopes[1]!) + 1 / heldHz[1]! ** 2 : 1,
    ];
    const det = normal[0]! * normal[2]! - normal[1]! ** 2;
    const step =
      k > 1
        ? [
            (normal[2]! * right[0]! - normal[1]! * right[1]!) / det,
            (normal[0]! * right[1]! - normal[1]! * right[0]!) / det,
          ]
        : [right[0]! / normal[0]!];
    // Never further at once than the tones can be told apart.
    const most = 0.3 * (c.band.rate / n);
    const next = tones.map((t, i) => ({ ...t, hz: t.hz + Math.max(-most, Math.min(most, step[i]!)) }));
    const tried = fitTones(c.band, next, to);
    const cost = (f: Fit, at: readonly Tone[]) =>
      f.left / variance + at.reduce((s, t, i) => s + ((t.hz - law[i]!.hz) / heldHz[i]!) ** 2, 0);
    if (cost(tried, next) >= cost(fit, tones)) break;
    tones = next;
    fit = tried;
    from.re.set(to.re);
    from.im.set(to.im);
  }
  const det = normal[0]! * normal[2]! - normal[1]! ** 2;
  const sdHz = k > 1 ? [Math.sqrt(normal[2]! / det), Math.sqrt(normal[0]! / det)] : [Math.sqrt(1 / normal[0]!)];
  return { n: c.n, m: c.m, hz: tones.map((t) => t.hz + c.band.centreHz), sdHz, amplitude: fit.amplitude, explained: 1 - fit.left / fit.energy };
}
/** Of a band's samples so many tell something of their own: it is cut out wider than it is flat. */
const USEFUL = 0.6;

interface LawFit {
  comb: Comb;
  /** Standard error of its first partial, cents. */
  sigmaCents: number;
}

/** The stiff-string law through partials: f_n / n = f0 sqrt(1 + B n^2), robust (Cauchy weights), B not below nothing. */
function fitLaw(points: readonly { n: number; hz: number; sdHz: number }[], before: Comb): LawFit {
  // In cents from before: y = df + (600 / ln 2) n^2 dB, where B n^2 is small.
  const perB = 600 / Math.LN2;
  const rows = points.map(({ n, hz, sdHz }) => ({
    y: cents(hz, partialOf(before, n)),
    x: (perB * n * n) / (1 + before.b * n * n),
    sd: Math.hypot((1200 / Math.LN2) * (sdHz / hz), LEAST_OFF_CENTS),
  }));
  let df = 0;
  let db = 0;
  let cov = [1, 0, 1];
  // Stiffness is held to what it was where nothing tells it.
  const heldB = 1 / (before.b + 2e-5) ** 2;
  for (let round = 0; round < 8; round++) {
    let [s, sx, sxx, sy, sxy] = [1e-9, 0, heldB, 0, 0];
    for (const { y, x, sd } of rows) {
      const r = (y - df - db * x) / sd;
      const w = 1 / (sd * sd * (1 + (r / 2.5) ** 2));
      s += w;
      sx += w * x;
      sxx += w * x * x;
      sy += w * y;
      sxy += w * x * y;
    }
    const det = s * sxx - sx * sx;
    df = (sxx * sy - sx * sxy) / det;
    db = Math.max(-before.b, (s * sxy - sx * sy) / det);
    cov = [sxx / det, -sx / det, s / det];
  }
  const comb = { f0: before.f0 * ratioOfCents(df), b: before.b + db };
  const misfit = rows.reduce((sum, { y, x, sd }) => sum + Math.min(9, ((y - df - db * x) / sd) ** 2), 0);
  const scale = Math.max(1, misfit / Math.max(1, rows.length - 2));
  const variance = cov[0]! + 2 * perB * cov[1]! + perB ** 2 * cov[2]!;
  return { comb, sigmaCents: Math.sqrt(Math.max(0, scale * variance)) };
}
/** However well a partial is seen, it stands off the law by this, cents (house estimate). */
const LEAST_OFF_CENTS = 0.15;

/** Both strings' laws from every cluster seen by itself; a few rounds, each from where the last one left them. */
function settle(take: Take, theta: Theta): { theta: Theta; sigma: [number, number]; seen: Seen[] } {
  let at = theta;
  let seen: Seen[] = [];
  let sigma: [number, number] = [1, 1];
  for (let round = 0; round < 3; round++) {
    const clusters = clustersOf(take, at.a, at.b);
    for (const c of clusters) refineDecays(c, at);
    seen = clusters.map((c) => look(c, at));
    const loudest = Math.max(...seen.flatMap((s) => s.amplitude));
    seen = seen.filter((s) => s.explained > EXPLAINED && Math.max(...s.amplitude) > FAINT * loudest);
    const a = seen.flatMap((s) => (s.n === undefined ? [] : [{ n: s.n, hz: s.hz[0]!, sdHz: s.sdHz[0]! }]));
    const b = seen.flatMap((s) => (s.m === undefined ? [] : [{ n: s.m, hz: s.hz.at(-1)!, sdHz: s.sdHz.at(-1)! }]));
    const [la, lb] = [fitLaw(a, at.a), fitLaw(b, at.b)];
    at = { a: la.comb, b: lb.comb };
    sigma = [la.sigmaCents, lb.sigmaCents];
    if ((globalThis as any).DBG) {
      console.log(round, at, sigma);
      for (const s of seen)
        console.log(
          s.n,
          s.m,
          s.hz
            .map(
              (h, i) =>
                `${(i === 0 && s.n ? cents(h, partialOf(at.a, s.n)) : cents(h, partialOf(at.b, s.m!))).toFixed(2)} sd ${((1731 * s.sdHz[i]!) / h).toFixed(2)} A ${s.amplitude[i]!.toExponential(1)}`,
            )
            .join(' | '),
        );
    }
  }
  return { theta: at, sigma, seen };
}

/** What is read of the recording, and what sounds there. */
function prepare(
  samples: ArrayLike<number>,
  sampleRate: number,
  o: PairOptions,
): (Take & { sections: Section[]; peaks: Peaks; hzPerBin: number; x: Float64Array; rate: number }) | PairReason {
  const raw = Float64Array.from(samples);
  const mean = raw.reduce((s, v) => s + v, 0) / Math.max(1, raw.length);
  for (let i = 0; i < raw.length; i++) raw[i]! -= mean;
  if (raw.length < 0.05 * sampleRate) return 'too-short';
  const peak = raw.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
  if (peak < SILENT) return 'too-quiet';
  const high = Math.max(o.aHz, o.bHz);
  const topHz = Math.min(HIGHEST_HZ, Math.max(1500, (MOST_PARTIALS + 1) * high));
  const factor = Math.max(1, Math.floor(sampleRate / (2.6 * topHz)));
  let x = decimate(raw, factor);
  const rate = sampleRate / factor;
  const slowestS = Math.min(0.03, 1 / Math.min(o.aHz, o.bHz));
  let sections = findSections(x, rate, slowestS);
  const clean = withoutHum(x, rate, quietStretches(sections, rate, x.length));
  if (clean) {
    x = clean;
    sections = findSections(x, rate, slowestS);
  }
  const loudest = Math.max(0, ...sections.map((s) => s.peakRms));
  const firstAt = sections.findIndex((s) => s.peakRms > 0.15 * loudest);
  const first = sections[firstAt];
  if (!first) return 'no-pitch';
  // What begins within a second belongs to it: the second string.
  let last = first;
  let secondS = first.onsetS;
  for (const s of sections.slice(firstAt + 1))
    if (s.onsetS - first.onsetS < 1 && s.onsetS - last.endS < 0.2) {
      secondS = s.onsetS;
      last = s;
    }
  const endS = Math.min(last.endS, x.length / rate);
  const lasts = endS - first.onsetS;
  const wanted = secondS > first.onsetS ? secondS + ATTACK_S : first.onsetS + SECOND_AFTER_S;
  const fromS = Math.min(wanted, Math.max(secondS + 0.05, endS - Math.max(LEAST_S, 0.5 * lasts)));
  const toS = Math.min(endS, fromS + READ_S);
  if (toS - fromS < LEAST_S || toS - fromS < 8 / Math.min(o.aHz, o.bHz)) return 'too-short';
  const clippedS = lastClippedSample(raw, sampleRate, peak) / sampleRate;
  if (clippedS > fromS) return 'clipped';
  if (findGap(raw.subarray(Math.floor(first.onsetS * sampleRate), Math.floor(toS * sampleRate)), sampleRate, peak) >= 0)
    return 'gap';
  const [i, j] = [Math.floor(fromS * rate), Math.floor(toS * rate)];
  const size = 4 * powerOfTwo(j - i);
  const spectrum = amplitudeSpectrum(x, i, j, size, new Float64Array(size / 2));
  const hzPerBin = rate / size;
  const peaks = findPeaks(spectrum, Math.floor(topHz / hzPerBin), hzPerBin, (2 * size) / (j - i), 25, 60, 4);
  return {
    bands: bandsOf(x, rate),
    fromS,
    toS,
    topHz,
    ratio: o.ratio,
    sections,
    peaks,
    hzPerBin: rate / (j - i),
    x,
    rate,
  };
}

/** A second string explains at least so much beside the first, summed over partials (house, from single strings). */
const LEAST_GAIN = 25;
/** Peaks that neither string explains may have this share of the energy. */
const STRANGE = 0.2;

/** Measures two strings that ring together. @param samples mono, −1..1; sampleRate Hz */
export function measurePair(samples: ArrayLike<number>, sampleRate: number, o: PairOptions): PairOutcome {
  const take = prepare(samples, sampleRate, o);
  if (typeof take === 'string') return refusal(take);
  const { peaks, topHz, hzPerBin, ratio } = take;
  const [p, q] = ratio;
  if (peaks.frequencyHz.length === 0) return refusal('no-pitch');
  const all = Array.from({ length: MOST_PARTIALS }, (_, i) => i + 1);
  const [freeA, freeB] = [freeOf(p, MOST_PARTIALS), freeOf(q, MOST_PARTIALS)];
  let theta: Theta;
  let gain = Infinity;
  if (freeA.length > 0 && freeB.length > 0) {
    const a = combNear(peaks, o.aHz, freeA, topHz, hzPerBin);
    const b = combNear(peaks, o.bHz, freeB, topHz, hzPerBin);
    theta = { a: a.comb, b: b.comb };
    gain = Math.min(a.score, b.score) * 8;
  } else {
    const of = freeA.length > 0 || freeB.length === 0 ? 'a' : 'b';
    const numbers = of === 'a' ? (freeA.length > 0 ? freeA : all) : freeB;
    const first = combNear(peaks, of === 'a' ? o.aHz : o.bHz, numbers, topHz, hzPerBin);
    const second = secondString(take, first.comb, of, of === 'a' ? o.bHz : o.aHz);
    gain = second.gain;
    theta = of === 'a' ? { a: first.comb, b: second.comb } : { a: second.comb, b: first.comb };
  }
  const settled = settle(take, theta);
  theta = settled.theta;
  const off = deviation(theta, ratio);
  void gain;
  const aHz = partialOf(theta.a, 1);
  const bHz = partialOf(theta.b, 1);
  const beatsHz = Math.abs(partialOf(theta.b, q) - partialOf(theta.a, p));
  return { ok: true, cents: off, sigmaCents: Math.hypot(...settled.sigma), signKnown: p !== q, beatsHz, aHz, bHz };
}
void [LEAST_GAIN, STRANGE, moved, STEP];
