import { Matrix, CholeskyDecomposition } from 'ml-matrix';

/** How two strings stand to one another: (a less its target) less (b less its target), cents. Strings count from 1. */
export interface Observation {
  a: number;
  b: number;
  cents: number;
  sigmaCents: number;
}
export interface Pin {
  string: number;
  cents: number;
}
export interface Net {
  /** Each string from its target, cents, with its standard error; null where nothing ties it to the pin. */
  offsets: (number | null)[];
  sigma: (number | null)[];
  /** Observations that disagree with the rest, from 0, in order. */
  suspect: number[];
  /** What is left of each observation, cents; null where it is not tied to the pin. */
  residuals: (number | null)[];
}

/** A residual beyond so many of its own standard errors disagrees: one in a thousand by chance (Baarda 1968). */
const DISAGREES = 3.29;
/** An observation with less than this share of its variance left in its residual is checked by nothing. */
const UNCHECKED = 1e-6;
/** Residuals this alike, over their errors, cannot be told apart. */
const ALIKE = 1e-6;

interface Solved {
  offset: Map<number, number>;
  variance: (i: number, j: number) => number;
}

/** Strings that observations tie to one of them. */
function tied(from: number, observations: readonly Observation[]): Set<number> {
  const found = new Set([from]);
  for (let grew = true; grew;) {
    grew = false;
    for (const { a, b } of observations)
      if (found.has(a) !== found.has(b)) {
        found.add(a).add(b);
        grew = true;
      }
  }
  return found;
}

/** Weighted least squares on the strings tied to the pin (normal equations, Cholesky). */
function solve(pin: Pin, observations: readonly Observation[]): Solved {
  const strings = [...tied(pin.string, observations)].filter((s) => s !== pin.string);
  const at = new Map(strings.map((s, k) => [s, k]));
  const normal = Matrix.zeros(Math.max(1, strings.length), Math.max(1, strings.length));
  const right = Matrix.zeros(Math.max(1, strings.length), 1);
  if (strings.length === 0) normal.set(0, 0, 1);
  for (const { a, b, cents, sigmaCents } of observations) {
    const [i, j] = [at.get(a), at.get(b)];
    if (i === undefined && j === undefined) continue;
    const w = 1 / sigmaCents ** 2;
    // What is pinned goes to the other side.
    const y = cents - (a === pin.string ? pin.cents : 0) + (b === pin.string ? pin.cents : 0);
    for (const [k, sign] of [
      [i, 1],
      [j, -1],
    ] as const) {
      if (k === undefined) continue;
      right.set(k, 0, right.get(k, 0) + sign * w * y);
      normal.set(k, k, normal.get(k, k) + w);
    }
    if (i !== undefined && j !== undefined) {
      normal.set(i, j, normal.get(i, j) - w);
      normal.set(j, i, normal.get(j, i) - w);
    }
  }
  const cholesky = new CholeskyDecomposition(normal);
  const inverse = cholesky.solve(Matrix.eye(normal.rows));
  const x = inverse.mmul(right);
  const offset = new Map<number, number>([[pin.string, pin.cents]]);
  for (const [s, k] of at) offset.set(s, x.get(k, 0));
  return {
    offset,
    variance: (s, t) => {
      const [i, j] = [at.get(s), at.get(t)];
      return i === undefined || j === undefined ? 0 : inverse.get(i, j);
    },
  };
}

/** Residual of an observation, and the variance of what it is checked against. */
function misfit({ offset, variance }: Solved, { a, b, cents }: Observation) {
  if (!offset.has(a) || !offset.has(b)) return undefined;
  const fitted = variance(a, a) + variance(b, b) - 2 * variance(a, b);
  return { residual: cents - (offset.get(a)! - offset.get(b)!), fitted };
}

/**
 * The observations that disagree with the rest: the one with the largest standardised residual is left out, and again, until all
 * agree (data snooping, Baarda 1968). Of two that only contradict one another neither can be told, so both are named and kept.
 */
function snoop(pin: Pin, all: readonly Observation[]): { used: Observation[]; suspect: Set<Observation> } {
  let used = [...all];
  const suspect = new Set<Observation>();
  for (;;) {
    const solved = solve(pin, used);
    const checked = used
      .filter((o) => !suspect.has(o))
      .flatMap((o) => {
        const m = misfit(solved, o);
        const left = m ? o.sigmaCents ** 2 - m.fitted : 0;
        return m && left > UNCHECKED * o.sigmaCents ** 2 ? [{ o, w: Math.abs(m.residual) / Math.sqrt(left) }] : [];
      })
      .sort((p, q) => q.w - p.w);
    const [worst] = checked;
    if (!worst || worst.w < DISAGREES) break;
    const alike = checked.filter((c) => c.w > worst.w * (1 - ALIKE));
    for (const { o } of alike) suspect.add(o);
    if (alike.length === 1) used = used.filter((o) => o !== worst.o);
  }
  // One that was left out beside a worse one, and agrees with what the rest say, is taken back.
  for (const o of [...suspect].filter((s) => !used.includes(s))) {
    const m = misfit(solve(pin, used), o);
    if (!m || Math.abs(m.residual) > DISAGREES * Math.sqrt(o.sigmaCents ** 2 + m.fitted)) continue;
    suspect.delete(o);
    used.push(o);
  }
  return { used, suspect };
}

/**
 * All interval readings of a round solved together, one string pinned.
 * @param strings how many; observations name them from 1
 */
export function solveNet(strings: number, pin: Pin, observations: readonly Observation[]): Net {
  const { used, suspect } = snoop(pin, observations);
  const main = solve(pin, used);
  // What is not tied to the pin still agrees with itself, or not.
  const loose = new Set(observations.flatMap((o) => [o.a, o.b]).filter((s) => !main.offset.has(s)));
  while (loose.size > 0) {
    const [first] = loose;
    const group = tied(first!, observations);
    const within = observations.filter((o) => group.has(o.a));
    for (const s of snoop({ string: first!, cents: 0 }, within).suspect) suspect.add(s);
    for (const s of group) loose.delete(s);
  }
  const all = Array.from({ length: strings }, (_, k) => k + 1);
  return {
    offsets: all.map((s) => main.offset.get(s) ?? null),
    sigma: all.map((s) => (main.offset.has(s) ? Math.sqrt(Math.max(0, main.variance(s, s))) : null)),
    suspect: observations.flatMap((o, k) => (suspect.has(o) ? [k] : [])),
    residuals: observations.map((o) => misfit(main, o)?.residual ?? null),
  };
}
