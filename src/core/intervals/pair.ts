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
/** A stiffer string must earn itself. */
const DEAR = 100;
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
function combNear(peaks: Peaks, aroundHz: number, numbers: readonly number[], topHz: number, hzPerBin: number): Comb {
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
      score *= 1 - DEAR * b;
      if (score > best.score) best = { comb, score };
    }
  return best.comb;
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
function clustersOf(take: Take, a: Comb, b: Comb, most: number): Cluster[] {
  const { bands, fromS, toS, topHz, ratio } = take;
  const [p, q] = ratio;
  const lines: (Line & { hz: number })[] = [];
  for (let n = 1; n <= most && partialOf(a, n) < topHz; n++) {
    const shared = n % p === 0;
    const m = shared ? (n / p) * q : undefined;
    lines.push({ n, m, hz: m === undefined ? partialOf(a, n) : (partialOf(a, n) + partialOf(b, m)) / 2 });
  }
  for (let m = 1; m <= most && partialOf(b, m) < topHz; m++)
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
function secondString(take: Take, first: Comb, of: 'a' | 'b', aroundHz: number): Comb {
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
      gain *= 1 - DEAR * b;
      if (gain > best.gain) best = { comb, gain };
    }
  return best.comb;
}

/**
 * A tone by itself where a band is strongest, then one beside it, each looked for again beside the other.
 * @returns how much likelier the two are than the best one alone, nats
 */
function twoTones(band: Band, halfHz: number): { tones: [Tone, Tone]; nats: number } {
  const decay = decayOf(band);
  const lasts = band.re.length / band.rate;
  const search = (beside: readonly Tone[]): Tone => {
    let best: Tone = { hz: 0, decay };
    let least = Infinity;
    const step = 0.2 / lasts;
    const at = (hz: number) => {
      const { left } = fitTones(band, [{ hz, decay }, ...beside]);
      if (left < least) {
        least = left;
        best = { hz, decay };
      }
    };
    for (let hz = -halfHz; hz <= halfHz; hz += step) at(hz);
    for (let fine = step / 2; fine > step / 40; fine /= 2) {
      const { hz } = best;
      at(hz - fine);
      at(hz + fine);
    }
    return best;
  };
  let first = search([]);
  // Alone it may die faster or slower than the whole.
  const alone = Math.min(
    ...[0.5, 0.7, 0.85, 1, 1.2, 1.5, 2].map((f) => fitTones(band, [{ ...first, decay: decay * f }]).left),
  );
  let second = search([first]);
  for (let round = 0; round < 2; round++) {
    first = search([second]);
    second = search([first]);
  }
  return {
    tones: [first, second],
    nats: USEFUL * band.re.length * Math.max(0, Math.log(alone / fitTones(band, [first, second]).left)),
  };
}

/** Both combs of a unison: from the two tones of every partial, whichever is whose. */
function unisonStart(take: Take, around: Comb): Theta {
  const seen: { n: number; hz: [number, number]; weight: number; sdCents: number }[] = [];
  const lasts = take.toS - take.fromS;
  for (let n = 1; n <= UNISON_PARTIALS && partialOf(around, n) < take.topHz; n++) {
    const hz = partialOf(around, n);
    const reach = hz * (ratioOfCents(WITHIN_CENTS) - 1);
    const halfHz = Math.min(Math.max(2 * reach, 6 / lasts), 0.9 * around.f0);
    const band = take.bands.band(hz, halfHz, take.fromS, take.toS);
    const { tones, nats } = twoTones(band, halfHz / 2);
    const at = tones.map((t) => t.hz + band.centreHz) as [number, number];
    seen.push({ n, hz: at, weight: Math.min(30, nats), sdCents: 0.4 + (1200 / Math.LN2) * (0.1 / lasts / hz) });
  }
  // Every pair of tones is a guess of both strings, with every stiffness.
  let best = { theta: { a: around, b: around }, gain: -1 };
  for (const guess of seen)
    for (const ba of STIFF)
      for (const bb of STIFF)
        for (const [x, y] of [guess.hz, [guess.hz[1], guess.hz[0]]] as [number, number][]) {
          const of = (hz: number, b: number): Comb => ({ f0: hz / guess.n / Math.sqrt(1 + b * guess.n ** 2), b });
          const theta = { a: of(x, ba), b: of(y, bb) };
          if (Math.abs(cents(partialOf(theta.a, 1), partialOf(theta.b, 1))) > 2 * WITHIN_CENTS) continue;
          let gain = 0;
          for (const { n, hz, weight, sdCents } of seen) {
            const near = (u: number, v: number) => Math.exp(-0.5 * (cents(u, v) / sdCents) ** 2);
            const [fa, fb] = [partialOf(theta.a, n), partialOf(theta.b, n)];
            gain += weight * Math.max(near(hz[0], fa) * near(hz[1], fb), near(hz[1], fa) * near(hz[0], fb));
          }
          gain *= 1 - 0.5 * DEAR * (ba + bb);
          if (gain > best.gain) best = { theta, gain };
        }
  return best.theta;
}
const UNISON_PARTIALS = 10;

/** One string's comb sharpened by its own partials. */
function sharpened(take: Take, comb: Comb, of: 'a' | 'b'): Comb {
  let at = comb;
  for (const most of [9, 14, 20]) {
    const lines = clustersOf(
      take,
      of === 'a' ? at : { f0: 1e9, b: 0 },
      of === 'b' ? at : { f0: 1e9, b: 0 },
      most,
    ).filter((c) => (of === 'a' ? c.m : c.n) === undefined);
    const theta = { a: at, b: at };
    const seen = lines.map((c) => look(c, theta));
    const loudest = Math.max(...seen.flatMap((s) => s.amplitude));
    const points = seen
      .filter((s) => s.explained > EXPLAINED && s.amplitude[0]! > FAINT * loudest)
      .map((s) => ({ n: (s.n ?? s.m)!, hz: s.hz[0]!, sdHz: s.sdHz[0]! }));
    if (points.length < 2) return at;
    at = fitLaw(points, at).comb;
  }
  return at;
}

interface Theta {
  a: Comb;
  b: Comb;
}

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
  /** How much likelier the band is with each tone than without it, nats. */
  worth: number[];
}
/** A band is looked at where its tones explain most of it, and stand out from the loudest of all. */
const EXPLAINED = 0.55;
const FAINT = 2e-4;
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
  const worth = tones.map((_, i) => {
    const without = k > 1 ? fitTones(c.band, [tones[1 - i]!]).left : fit.energy;
    return USEFUL * n * Math.log(without / fit.left);
  });
  return {
    n: c.n,
    m: c.m,
    hz: tones.map((t) => t.hz + c.band.centreHz),
    sdHz,
    amplitude: fit.amplitude,
    explained: 1 - fit.left / fit.energy,
    worth,
  };
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
  // Where nothing tells the stiffness it is a usual string's.
  const heldB = 1 / USUAL_SPREAD ** 2;
  for (let round = 0; round < 8; round++) {
    let [s, sx, sxx, sy, sxy] = [1e-9, 0, heldB, 0, heldB * (USUAL_B - before.b)];
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
/** Stiffness of usual strings and its spread (house estimates). */
const USUAL_B = 6e-5;
const USUAL_SPREAD = 1.5e-4;
/** However well a partial is seen, it stands off the law by this, cents (house estimate). */
const LEAST_OFF_CENTS = 0.15;

/** Both strings' laws from every cluster seen by itself; a few rounds, each from where the last one left them. */
function settle(take: Take, theta: Theta): { theta: Theta; sigma: [number, number]; seen: Seen[] } {
  let at = theta;
  let seen: Seen[] = [];
  let sigma: [number, number] = [1, 1];
  // Stiffness is known better with every round: higher partials are found by it then, not before.
  for (const most of [9, 14, 20, 26]) {
    const clusters = clustersOf(take, at.a, at.b, Math.max(most, ...take.ratio));
    for (const c of clusters) refineDecays(c, at);
    seen = clusters.map((c) => look(c, at));
    const loudest = Math.max(...seen.flatMap((s) => s.amplitude));
    seen = seen.filter((s) => s.explained > EXPLAINED && Math.max(...s.amplitude) > FAINT * loudest);
    const a = seen.flatMap((s) => (s.n === undefined ? [] : [{ n: s.n, hz: s.hz[0]!, sdHz: s.sdHz[0]! }]));
    const b = seen.flatMap((s) => (s.m === undefined ? [] : [{ n: s.m, hz: s.hz.at(-1)!, sdHz: s.sdHz.at(-1)! }]));
    const [la, lb] = [fitLaw(a, at.a), fitLaw(b, at.b)];
    at = { a: la.comb, b: lb.comb };
    sigma = [la.sigmaCents, lb.sigmaCents];
  }
  return { theta: at, sigma, seen };
}

interface Prepared extends Take {
  onsetS: number;
  /** Of the spectrum of what is read. */
  peaks: Peaks;
  hzPerBin: number;
}

/** What is read of the recording, and what sounds there. */
function prepare(samples: ArrayLike<number>, sampleRate: number, o: PairOptions): Prepared | PairReason {
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
  // What begins within half a second is the second string; later starts are swells of the beats.
  let last = first;
  let secondS = first.onsetS;
  for (const s of sections.slice(firstAt + 1)) {
    if (s.onsetS - last.endS > 0.2) break;
    if (s.onsetS - first.onsetS < 0.5) secondS = s.onsetS;
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
    onsetS: first.onsetS,
    peaks,
    hzPerBin: rate / (j - i),
  };
}

/** A string is there from so many nats on (house, from single strings and pairs). */
const LEAST_NATS = 31;
/** Of the partials that both strings have, so much must stand as both laws say. */
const LEAST_AGREE = 0.5;
/** Peaks that neither string explains may have this share of the energy. */
const STRANGE = 0.055;

/** Measures two strings that ring together. @param samples mono, −1..1; sampleRate Hz */
export function measurePair(samples: ArrayLike<number>, sampleRate: number, o: PairOptions): PairOutcome {
  const take = prepare(samples, sampleRate, o);
  if (typeof take === 'string') return refusal(take);
  if (take.peaks.frequencyHz.length === 0) return refusal('no-pitch');
  const [p, q] = o.ratio;
  const settled = settle(take, begin(take, o));
  const { sigma, seen } = settled;
  const first = p === q ? soundsFirst(take, settled.theta) : undefined;
  const theta = first === 'b' ? { a: settled.theta.b, b: settled.theta.a } : settled.theta;
  const aHz = partialOf(theta.a, 1);
  const bHz = partialOf(theta.b, 1);
  const strange = strangeShare(take, theta);
  const free = Math.min(p > 1 ? ownEvidence(seen, 'n') : Infinity, q > 1 ? ownEvidence(seen, 'm') : Infinity);
  const shared = p === 1 || q === 1 ? sharedEvidence(take, theta) : undefined;
  if (strange > STRANGE) return refusal('other-notes');
  if (free < LEAST_NATS || (shared && shared.agree < Math.max(LEAST_NATS, LEAST_AGREE * shared.all)))
    return refusal('one-string');
  if ([cents(aHz, o.aHz), cents(bHz, o.bHz)].some((c) => Math.abs(c) > WITHIN_CENTS + 15))
    return refusal('other-notes');
  const off = cents(bHz, (aHz * p) / q);
  const beatsHz = Math.abs(partialOf(theta.b, q) - partialOf(theta.a, p));
  return {
    ok: true,
    cents: off,
    sigmaCents: Math.hypot(...sigma),
    signKnown: p !== q || first !== undefined,
    beatsHz,
    aHz,
    bHz,
  };
}

/**
 * Which string of a unison sounded alone first: what both do later, carried back to the beginning, against what is there.
 * Undefined where they began together, or where it cannot be told.
 */
function soundsFirst(take: Prepared, { a, b }: Theta): 'a' | 'b' | undefined {
  const slices = Math.floor((take.fromS - take.onsetS - FIRST_AFTER_S) / SLICE_S);
  /** Energy by slice: of what is there less the one, less the other, less both; and all. */
  const left = { a: new Float64Array(slices), b: new Float64Array(slices), both: new Float64Array(slices) };
  const all = new Float64Array(slices);
  for (let n = 1; n <= UNISON_PARTIALS; n++) {
    const [fa, fb] = [partialOf(a, n), partialOf(b, n)];
    if (Math.max(fa, fb) > take.topHz) break;
    const centre = (fa + fb) / 2;
    const halfHz = Math.min(0.9 * a.f0, 180);
    const late = take.bands.band(centre, halfHz, take.fromS, take.toS);
    const early = take.bands.band(centre, halfHz, take.onsetS, take.fromS);
    const cluster: Cluster = { n, m: n, band: late, decays: [decayOf(late), decayOf(late)] };
    for (let round = 0; round < 3; round++) refineDecays(cluster, { a, b });
    const tones = tonesOf(cluster, a, b);
    const fit = fitTones(late, tones);
    const [loud, soft] = [Math.max(...fit.amplitude), Math.min(...fit.amplitude)];
    if (1 - fit.left / fit.energy < 0.8 || soft < 0.1 * loud) continue;
    for (let i = 0; i < early.re.length; i++) {
      const tS = early.fromS + i / early.rate;
      const slice = Math.floor((tS - take.onsetS - FIRST_AFTER_S) / SLICE_S);
      if (slice < 0 || slice >= slices) continue;
      const carried = tones.map(({ hz, decay }, k) => {
        const dt = tS - late.fromS;
        const size = Math.exp(-decay * dt);
        const angle = 2 * Math.PI * hz * dt;
        const [c, s] = [size * Math.cos(angle), size * Math.sin(angle)];
        return [fit.re[k]! * c - fit.im[k]! * s, fit.re[k]! * s + fit.im[k]! * c] as const;
      });
      const less = (of: readonly number[]) =>
        (early.re[i]! - of.reduce((s, k) => s + carried[k]![0], 0)) ** 2 +
        (early.im[i]! - of.reduce((s, k) => s + carried[k]![1], 0)) ** 2;
      // Every partial counts alike.
      const scale = 1 / (loud * loud);
      left.a[slice]! += scale * less([0]);
      left.b[slice]! += scale * less([1]);
      left.both[slice]! += scale * less([0, 1]);
      all[slice]! += scale * (early.re[i]! ** 2 + early.im[i]! ** 2);
    }
  }
  const cost = (of: 'a' | 'b', alone: number) =>
    all.reduce((s, e, k) => s + (k < alone ? left[of][k]! : left.both[k]!) / Math.max(1e-30, e), 0) /
    Math.max(1, slices);
  const best = (of: 'a' | 'b') =>
    Array.from({ length: slices + 1 }, (_, k) => ({ of, alone: k, cost: cost(of, k) })).sort(
      (x, y) => x.cost - y.cost,
    )[0]!;
  const [one, other] = [best('a'), best('b')].sort((x, y) => x.cost - y.cost) as [
    ReturnType<typeof best>,
    ReturnType<typeof best>,
  ];
  // Alone for some slices, well foretold, and clearly better than the other way round or both at once.
  const clear = one.alone >= LEAST_ALONE && one.cost < 0.35 && one.cost < 0.6 * other.cost;
  return clear ? one.of : undefined;
}
const FIRST_AFTER_S = 0.03;
const SLICE_S = 0.03;
const LEAST_ALONE = 2;

/** Where both strings are looked for first. */
function begin(take: Prepared, { aHz, bHz, ratio: [p, q] }: PairOptions): Theta {
  const { peaks, topHz, hzPerBin } = take;
  const all = Array.from({ length: MOST_PARTIALS }, (_, i) => i + 1);
  const [freeA, freeB] = [freeOf(p, MOST_PARTIALS), freeOf(q, MOST_PARTIALS)];
  if (p === q) return unisonStart(take, combNear(peaks, aHz, all, topHz, hzPerBin));
  if (freeA.length > 0 && freeB.length > 0)
    return { a: combNear(peaks, aHz, freeA, topHz, hzPerBin), b: combNear(peaks, bHz, freeB, topHz, hzPerBin) };
  // One of them has no partial of its own: the other one first.
  if (freeA.length > 0) {
    const a = sharpened(take, combNear(peaks, aHz, freeA, topHz, hzPerBin), 'a');
    return { a, b: secondString(take, a, 'a', bHz) };
  }
  const b = sharpened(take, combNear(peaks, bHz, freeB, topHz, hzPerBin), 'b');
  return { a: secondString(take, b, 'b', aHz), b };
}

/** How surely a string is there by partials of its own, nats. */
function ownEvidence(seen: readonly Seen[], of: 'n' | 'm'): number {
  const other = of === 'n' ? 'm' : 'n';
  return seen.reduce(
    (sum, s) => sum + (s[of] !== undefined && s[other] === undefined ? Math.min(30, s.worth[0]!) : 0),
    0,
  );
}

/** How surely two strings are there by the partials that both have: nats of those where two tones stand as both laws say; and of all. */
function sharedEvidence(take: Take, { a, b }: Theta): { agree: number; all: number } {
  const [p, q] = take.ratio;
  const lasts = take.toS - take.fromS;
  let agree = 0;
  let all = 0;
  for (let j = 1; j <= UNISON_PARTIALS; j++) {
    const [fa, fb] = [partialOf(a, p * j), partialOf(b, q * j)];
    const hz = (fa + fb) / 2;
    if (hz > take.topHz) break;
    const halfHz = Math.min(Math.max(2.4 * Math.abs(fa - fb), 12 / lasts, 0.02 * hz), 0.9 * Math.min(a.f0, b.f0), 120);
    const band = take.bands.band(hz, halfHz, take.fromS, take.toS);
    const { tones, nats } = twoTones(band, halfHz / 2);
    const near = AGREE_CENTS + (1200 / Math.LN2) * (0.15 / lasts / hz);
    const at = tones.map((t) => t.hz + band.centreHz);
    const is = (x: number, y: number) => Math.abs(cents(x, fa)) < near && Math.abs(cents(y, fb)) < near;
    // One tone that does not die evenly looks like two at one place, or with a faint one beside it.
    const [loud, soft] = fitTones(band, tones).amplitude as [number, number];
    const apart = Math.abs(tones[0].hz - tones[1].hz) * lasts;
    if (apart < APART || Math.min(loud, soft) < FAINTER * Math.max(loud, soft)) continue;
    const worth = Math.min(30, nats);
    all += worth;
    if (is(at[0]!, at[1]!) || is(at[1]!, at[0]!)) agree += worth;
  }
  return { agree, all };
}
const AGREE_CENTS = 2;
/** Turns by which two tones part while they are heard, and the least share of the louder one. */
const APART = 0.6;
const FAINTER = 0.03;

/** Share of the energy in peaks that neither string explains. */
function strangeShare({ peaks }: Prepared, { a, b }: Theta): number {
  let all = 0;
  let strange = 0;
  peaks.frequencyHz.forEach((f, i) => {
    const energy = peaks.amplitude[i]! ** 2;
    all += energy;
    const near = (comb: Comb) => {
      const n = Math.max(1, Math.round(f / comb.f0));
      return [n - 1, n, n + 1].some((k) => k > 0 && Math.abs(cents(f, partialOf(comb, k))) < STRANGE_CENTS);
    };
    if (!near(a) && !near(b)) strange += energy;
  });
  return strange / Math.max(1e-30, all);
}
const STRANGE_CENTS = 25;
