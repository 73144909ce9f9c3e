import { cents, ratioOfCents } from '../music';
import type { NarrowBand } from './bands';
import { partialOf, type StiffComb } from './comb';
import type { PairTake } from './take';
import { decayOf, fitTones, type Fit, type Tone } from './tones';
import { clamp } from '../base';

/** Where partials of either string lie: of one alone, or of both together. */
interface Line {
  n: number | undefined;
  m: number | undefined;
}

export interface Theta {
  a: StiffComb;
  b: StiffComb;
}

export interface Cluster extends Line {
  band: NarrowBand;
  /** Of a single line, or of both tones. */
  decays: number[];
}

/** Bands round every line that lies free of others; of one string alone, its own partials, where the other one is not known yet. */
export function clustersOf(
  take: PairTake,
  a: StiffComb | undefined,
  b: StiffComb | undefined,
  most: number,
): Cluster[] {
  const { bands, fromS, toS, topHz, ratio } = take;
  const [p, q] = ratio;
  const lines: (Line & { hz: number; apart: number })[] = [];
  for (let n = 1; a && n <= most && partialOf(a, n) < topHz; n++) {
    if (n % p !== 0) lines.push({ n, m: undefined, apart: 0, hz: partialOf(a, n) });
    else if (b) {
      const m = (n / p) * q;
      const [fa, fb] = [partialOf(a, n), partialOf(b, m)];
      lines.push({ n, m, apart: Math.abs(fa - fb), hz: (fa + fb) / 2 });
    }
  }
  for (let m = 1; b && m <= most && partialOf(b, m) < topHz; m++)
    if (m % q !== 0) lines.push({ n: undefined, m, apart: 0, hz: partialOf(b, m) });
  lines.sort((x, y) => x.hz - y.hz);
  const lasts = toS - fromS;
  return lines.flatMap(({ n, m, hz, apart }, i) => {
    const room = Math.min(hz - (lines[i - 1]?.hz ?? 0), (lines[i + 1]?.hz ?? Infinity) - hz);
    const wanted = Math.max(12 / lasts, 2.6 * apart, 0.03 * hz);
    const halfHz = Math.min(wanted, 0.9 * room, 90);
    // Too near to another line to be parted from it.
    if (halfHz < 5 / lasts) return [];
    const band = bands.band(hz, halfHz, fromS, toS);
    const decay = decayOf(band);
    return [{ n, m, band, decays: n !== undefined && m !== undefined ? [decay, decay] : [decay] }];
  });
}

/** The tones that make up a cluster: one of each string. */
export const clusterTones = ({ n, m, band, decays }: Cluster, a: StiffComb, b: StiffComb): Tone[] =>
  [n === undefined ? undefined : partialOf(a, n), m === undefined ? undefined : partialOf(b, m)]
    .filter((f) => f !== undefined)
    .map((f, k) => ({ hz: f - band.centreHz, decay: decays[k]! }));
/** Each cluster's decays by coordinate steps, frequencies held. */
export function refineDecays(c: Cluster, theta: Theta): void {
  for (let k = 0; k < c.decays.length; k++)
    for (const factor of [0.6, 0.8, 1.25, 1.6]) {
      const before = fitTones(c.band, clusterTones(c, theta.a, theta.b)).left;
      const kept = c.decays[k]!;
      c.decays[k] = Math.max(0.02, kept * factor);
      if (fitTones(c.band, clusterTones(c, theta.a, theta.b)).left >= before) c.decays[k] = kept;
    }
}

/** What is seen of a cluster when both of its tones are let free near where the law has them: their frequencies and how sure. */
export interface ClusterSeen {
  n: number | undefined;
  m: number | undefined;
  hz: number[];
  sdHz: number[];
  amplitude: number[];
  /** Share of the band's energy that the tones explain. */
  explained: number;
  /** How much likelier the band is with each tone than without it, nats. */
  worth: number[];
  /** The same with all of them than with none. */
  nats: number;
}
/** A band is looked at where its tones explain most of it, and stand out from the loudest of all. */
const EXPLAINED = 0.55;
const FAINT = 2e-4;
/** Partials of real strings stand off the law by this much, cents (bodies, house estimate). */
const OFF_LAW_CENTS = 1.2;

/** One cluster by itself: Gauss-Newton on the tones' frequencies, held to the law within what bodies do. */
function look(c: Cluster, theta: Theta): ClusterSeen {
  const law = clusterTones(c, theta.a, theta.b);
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
    const next = tones.map((t, i) => ({ ...t, hz: t.hz + clamp(step[i]!, -most, most) }));
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
    nats: USEFUL * n * Math.log(fit.energy / fit.left),
  };
}
/** Every cluster by itself, those left out where nothing clear is seen. */
export function lookAll(clusters: readonly Cluster[], theta: Theta): ClusterSeen[] {
  const seen = clusters.map((c) => look(c, theta));
  const loudest = Math.max(...seen.flatMap((s) => s.amplitude));
  return seen.filter((s) => s.explained > EXPLAINED && Math.max(...s.amplitude) > FAINT * loudest);
}
/** Of a band's samples so many tell something of their own: it is cut out wider than it is flat. */
export const USEFUL = 0.6;

interface LawFit {
  comb: StiffComb;
  /** Standard error of its first partial, cents. */
  sigmaCents: number;
}

/** The stiff-string law through partials: f_n / n = f0 sqrt(1 + B n^2), robust (Cauchy weights), B not below nothing. */
export function fitLaw(points: readonly { n: number; hz: number; sdHz: number }[], before: StiffComb): LawFit {
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

/** Partials that each round looks at. */
const ROUNDS = [9, 14, 20, 26];

/** Both strings' laws from every cluster seen by itself; a few rounds, each from where the last one left them. */
export function settle(
  take: PairTake,
  theta: Theta,
  rounds: readonly number[] = ROUNDS,
): { theta: Theta; sigma: [number, number]; seen: ClusterSeen[] } {
  let at = theta;
  let seen: ClusterSeen[] = [];
  let sigma: [number, number] = [1, 1];
  // Stiffness is known better with every round: higher partials are found by it then, not before.
  for (const most of rounds) {
    const clusters = clustersOf(take, at.a, at.b, Math.max(most, ...take.ratio));
    for (const c of clusters) refineDecays(c, at);
    seen = lookAll(clusters, at);
    const a = seen.flatMap((s) => (s.n === undefined ? [] : [{ n: s.n, hz: s.hz[0]!, sdHz: s.sdHz[0]! }]));
    const b = seen.flatMap((s) => (s.m === undefined ? [] : [{ n: s.m, hz: s.hz.at(-1)!, sdHz: s.sdHz.at(-1)! }]));
    const [la, lb] = [fitLaw(a, at.a), fitLaw(b, at.b)];
    at = { a: la.comb, b: lb.comb };
    sigma = [la.sigmaCents, lb.sigmaCents];
  }
  return { theta: at, sigma, seen };
}
