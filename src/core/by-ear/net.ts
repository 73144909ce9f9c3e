import { clamp } from '../base';

/** How two strings stand to one another: (a less its target) less (b less its target), cents. Strings count from 1. */
export interface Between {
  a: number;
  b: number;
  cents: number;
  sigmaCents: number;
  /** What it may be as well: a unison tells how far, not which way. */
  orCents?: number;
}
/** One string read by itself, cents from its target. */
export interface Alone {
  string: number;
  cents: number;
  sigmaCents: number;
}
export type Observation = Between | Alone;
export interface Pin {
  string: number;
  cents: number;
}
export interface Net {
  /** Each string from its target, cents, with its standard error; null where nothing ties it to the pin. */
  offsets: (number | null)[];
  sigma: (number | null)[];
  /** Observations that disagree with the rest, from 0, in order: one, or several that cannot be told apart. */
  suspect: number[];
  /** Is the suspect one alone, and does all the rest agree without it? */
  odd: boolean;
  /** Observations of which it is not known which of their two figures is true. */
  undecided: number[];
  /** What is left of each observation, cents; null where it is not tied to the pin. */
  residuals: (number | null)[];
}

/** Before anything is read a string stands within this, cents; and a reading is a gross one, so far off, with this chance (house estimates). */
const WIDE_CENTS = 1000;
const GROSS = 0.03;
const GROSS_CENTS = 25;
/** Surer than this a gross reading is named, and a way is decided. */
const NAMED = 0.9;
const DECIDED = 0.95;
/** Where none is named, those this near to the likeliest are. */
const ALIKE = 0.7;
/** Hypotheses that are kept, by how much work one is; those less likely than this, against the best, are dropped. */
const MOST_KEPT = 256;
const LEAST_KEPT = 8;
const WORK = 4e6;
const UNLIKELY = 1e-7;
/** Readings agree as their errors say: worth so many readings; and errors are widened so much at most, in so many rounds. */
const AGREE_WORTH = 2;
const WIDEST = 5;
const ROUNDS = 3;

/** What one reading is taken for: its figure, its other figure, or a gross error. */
const enum As {
  Figure,
  Other,
  Gross,
}

/** One way of taking all readings so far: where the strings stand then, and how likely that is. */
interface Hypothesis {
  log: number;
  mean: Float64Array;
  /** Row-major, strings x strings. */
  cov: Float64Array;
  as: As[];
}

const endsOf = (o: Observation): [number, number | undefined] => ('string' in o ? [o.string, undefined] : [o.a, o.b]);
const figuresOf = (o: Observation): number[] =>
  'string' in o || o.orCents === undefined || o.orCents === o.cents ? [o.cents] : [o.cents, o.orCents];

/** Strings that observations tie to one of them; one that was read alone is tied to all such. */
function tied(from: number, observations: readonly Observation[]): Set<number> {
  const found = new Set([from]);
  for (let grew = true; grew;) {
    grew = false;
    for (const [a, b = from] of observations.map(endsOf))
      if (found.has(a) !== found.has(b)) {
        found.add(a).add(b);
        grew = true;
      }
  }
  return found;
}

const logNormal = (v: number, variance: number): number =>
  -0.5 * (Math.log(2 * Math.PI * variance) + (v * v) / variance);

/** Of a hypothesis: what an observation reads by it, and with what variance. */
function predicted({ mean, cov }: Hypothesis, n: number, [a, b]: [number, number | undefined]) {
  const i = a - 1;
  if (b === undefined) return { at: mean[i]!, variance: cov[i * n + i]! };
  const j = b - 1;
  return { at: mean[i]! - mean[j]!, variance: cov[i * n + i]! + cov[j * n + j]! - 2 * cov[i * n + j]! };
}

/** The hypothesis with one observation taken as something (Kalman 1960). @param noise variance of the reading, cents² */
function taken(h: Hypothesis, n: number, o: Observation, as: As, log: number, noise: number): Hypothesis {
  const [a, b] = endsOf(o);
  const { at, variance } = predicted(h, n, [a, b]);
  const gained = Float64Array.from({ length: n }, (_, k) => {
    const own = h.cov[k * n + a - 1]!;
    return b === undefined ? own : own - h.cov[k * n + b - 1]!;
  });
  const all = variance + noise;
  const miss = figuresOf(o)[as === As.Other ? 1 : 0]! - at;
  const mean = h.mean.map((m, k) => m + (gained[k]! * miss) / all);
  const cov = h.cov.map((c, k) => c - (gained[Math.floor(k / n)]! * gained[k % n]!) / all);
  return { log, mean, cov, as: [...h.as, as] };
}

/** Every likely way of taking all readings (a mixture of Gaussians, pruned: Alspach & Sorenson 1972), with their shares. */
function waysOf(n: number, pin: Pin, observations: readonly Observation[], scale: number, grossShare = GROSS) {
  const mean = new Float64Array(n);
  const cov = new Float64Array(n * n);
  for (let i = 0; i < n; i++) cov[i * n + i] = WIDE_CENTS ** 2;
  mean[pin.string - 1] = pin.cents;
  cov[(pin.string - 1) * (n + 1)] = 0;
  const most = clamp(WORK / (n * n * Math.max(1, observations.length)), LEAST_KEPT, MOST_KEPT);
  let kept: Hypothesis[] = [{ log: 0, mean, cov, as: [] }];
  // What tells one way goes first.
  const many = (k: number) => figuresOf(observations[k]!).length;
  const order = observations.map((_, k) => k).sort((i, j) => many(i) - many(j));
  for (const k of order) {
    const o = observations[k]!;
    const noise = (scale * o.sigmaCents) ** 2;
    const figures = figuresOf(o);
    const next = kept.flatMap((h) => {
      const { at, variance } = predicted(h, n, endsOf(o));
      const as = (c: number, what: As, share: number, own: number) => ({
        h,
        what,
        noise: own,
        log: h.log + Math.log(share) + logNormal(c - at, variance + own),
      });
      const read = figures.map((c, i) => as(c, i, (1 - grossShare) / figures.length, noise));
      return grossShare > 0 ? [...read, as(figures[0]!, As.Gross, grossShare, noise + GROSS_CENTS ** 2)] : read;
    });
    const top = Math.max(...next.map((h) => h.log));
    kept = next
      .filter((h) => h.log > top + Math.log(UNLIKELY))
      .sort((p, q) => q.log - p.log)
      .slice(0, most)
      .map((c) => taken(c.h, n, o, c.what, c.log - top, c.noise));
  }
  const sum = kept.reduce((s, h) => s + Math.exp(h.log), 0);
  return kept.map((h) => {
    const as: As[] = [];
    order.forEach((k, i) => (as[k] = h.as[i]!));
    return { ...h, as, share: Math.exp(h.log) / sum };
  });
}
type Ways = ReturnType<typeof waysOf>;
const over = (ways: Ways, of: (h: Ways[number]) => number) => ways.reduce((s, h) => s + h.share * of(h), 0);

/** By how much the readings differ from one another more than their errors say, at least 1; the errors as given. */
function disagreement(
  ways: ReturnType<typeof waysOf>,
  n: number,
  observations: readonly Observation[],
  strings: number,
): number {
  const best = ways.reduce((a, b) => (b.share > a.share ? b : a));
  const used = observations.filter((_, k) => best.as[k] !== As.Gross);
  const squares = observations.reduce((s, o, k) => {
    if (best.as[k] === As.Gross) return s;
    return s + ((figuresOf(o)[best.as[k]!]! - predicted(best, n, endsOf(o)).at) / o.sigmaCents) ** 2;
  }, 0);
  const free = Math.max(0, used.length - strings);
  return Math.sqrt(clamp((squares + AGREE_WORTH) / (free + AGREE_WORTH), 1, WIDEST ** 2));
}

/**
 * All readings of a round put together, one string pinned: pairs, strings read alone, and pairs that tell no sign, of which every
 * likely way is weighed by all the rest. Gross readings are weighed alike; errors are widened where the readings differ by more.
 * @param strings how many; observations name them from 1
 */
export function solveNet(strings: number, pin: Pin, observations: readonly Observation[]): Net {
  const isTied = tied(pin.string, observations);
  const free = new Set(observations.flatMap(endsOf).filter((s) => s !== undefined && s !== pin.string)).size;
  let ways = waysOf(strings, pin, observations, 1);
  let scale = 1;
  for (let round = 0; round < ROUNDS; round++) {
    const next = disagreement(ways, strings, observations, free);
    if (next < 1.02 * scale) break;
    scale = next;
    ways = waysOf(strings, pin, observations, scale);
  }
  const gross = observations.map((_, k) => over(ways, (h) => (h.as[k] === As.Gross ? 1 : 0)));
  const clean = over(ways, (h) => (h.as.includes(As.Gross) ? 0 : 1));
  const worst = Math.max(0, ...gross);
  const named = gross.flatMap((g, k) => (g >= NAMED ? [k] : []));
  const alike = clean < 0.5 ? gross.flatMap((g, k) => (g >= ALIKE * worst ? [k] : [])) : [];
  const suspect = named.length > 0 ? named : alike;
  // What is surely gross is left out; of those that cannot be told apart none is.
  const used = observations.flatMap((_, k) => (named.includes(k) ? [] : [k]));
  const last = waysOf(
    strings,
    pin,
    used.map((k) => observations[k]!),
    scale,
    0,
  );
  const offsets = Array.from({ length: strings }, (_, i) => over(last, (h) => h.mean[i]!));
  const variance = (i: number) => over(last, (h) => h.cov[i * (strings + 1)]! + (h.mean[i]! - offsets[i]!) ** 2);
  /** How likely the other figure is the true one; undefined where there is one only, or none is. */
  const other = observations.map((o, k) => {
    const at = used.indexOf(k);
    return at < 0 || figuresOf(o).length < 2 ? undefined : over(last, (h) => (h.as[at] === As.Other ? 1 : 0));
  });
  const ifTied = <T>(s: number, value: T) => (isTied.has(s) ? value : null);
  return {
    offsets: offsets.map((o, i) => ifTied(i + 1, o)),
    sigma: offsets.map((_, i) => ifTied(i + 1, Math.sqrt(Math.max(0, variance(i))))),
    suspect,
    odd: named.length === 1 && gross.every((g, k) => k === named[0] || g < 1 - NAMED),
    undecided: other.flatMap((p, k) => (p !== undefined && Math.max(p, 1 - p) < DECIDED ? [k] : [])),
    residuals: observations.map((o, k) => {
      const [a, b] = endsOf(o);
      const figure = figuresOf(o)[(other[k] ?? 0) > 0.5 ? 1 : 0]!;
      return ifTied(a, figure - offsets[a - 1]! + (b === undefined ? 0 : offsets[b - 1]!));
    }),
  };
}
