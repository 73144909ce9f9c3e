import { clamp } from '../../base';

/** One partial as it was measured: number, frequency and standard error in Hz, amplitude. */
export interface MeasuredPartial {
  n: number;
  frequencyHz: number;
  sigmaHz: number;
  amplitude: number;
  /** Rms of its phase about one steady tone, rad, where that is known. */
  residualRad?: number;
  /** Share of the stretch in which it stands out of the noise. */
  cover?: number;
}

export interface StiffFit {
  /** f0 sqrt(1 + B), Hz. */
  firstPartialHz: number;
  b: number;
  /** Standard error of the first partial, cents. */
  sigmaCents: number;
}

const CENTS = 1200 / Math.LN2;
/** Stiffness of a usual string and its spread: a prior that speaks where few partials do; and its bound (house estimates). */
export const B_USUAL = 8e-5;
const B_SPREAD = 1e-4;
const B_MOST = 5e-3;
/** How far the body moves a strong partial off the law, cents; a faint one counts for less, by its amplitude to this power (house estimates). */
const BODY_CENTS = 2;
const FAINT = 0.8;
/** A partial whose phase wanders by this much counts for a quarter: it beats with the body or another string, rad (house estimate). */
const RESTLESS_RAD = 0.5;
/** Degrees of freedom of the partials' scatter about the law: few far ones do not drag it (Student's t, Lange et al. 1989). */
const NU = 4;
/** Share of the scatter about the law that two plucks do not share (house estimate, by strings on bodies). */
const UNSHARED = 0.45;
const ROUNDS = 25;

/**
 * Fits f_n = n f0 sqrt(1 + B n^2) (Fletcher 1964) to the partials in cents: ln(f_n / n) = ln f0 + 0.5 ln(1 + B n^2), by
 * iteratively reweighted least squares. Strong partials lead: they are there in every room, so that the reading does not
 * depend on how many faint ones are heard.
 * @param b a stiffness to keep instead of fitting it
 */
export function fitStiffString(partials: readonly MeasuredPartial[], b?: number): StiffFit {
  const top = Math.max(...partials.map((p) => p.amplitude));
  const points = partials.map((p) => {
    const measured = (CENTS * p.sigmaHz) / p.frequencyHz;
    return {
      y: CENTS * Math.log(p.frequencyHz / p.n),
      n2: p.n * p.n,
      measured,
      own:
        Math.hypot(measured, BODY_CENTS * (top / p.amplitude) ** FAINT) *
        ((1 + ((p.residualRad ?? 0) / RESTLESS_RAD) ** 2) / (p.cover ?? 1) ** 2),
      weight: 0,
    };
  });
  const prior = b ?? B_USUAL;
  const precision = 1 / (b === undefined ? B_SPREAD : 1e-9) ** 2;
  let stiffness = prior;
  const bend = (n2: number) => 0.5 * CENTS * Math.log1p(stiffness * n2);
  // From the weighted median, so that one strong partial far off does not choose the ground.
  const heights = points.map((p) => ({ at: p.y - bend(p.n2), worth: 1 / p.own })).sort((p, q) => p.at - q.at);
  let left = heights.reduce((sum, p) => sum + p.worth, 0) / 2;
  let height = heights.find((p) => (left -= p.worth) <= 0)!.at;
  for (let round = 0; round < ROUNDS; round++) {
    let sw = 0;
    let sg = 0;
    let sgg = precision;
    let sr = 0;
    let sgr = (prior - stiffness) * precision;
    for (const p of points) {
      const r = p.y - height - bend(p.n2);
      const g = (0.5 * CENTS * p.n2) / (1 + stiffness * p.n2);
      const w = (NU + 1) / (NU + (r / p.own) ** 2) / p.own ** 2;
      p.weight = w;
      sw += w;
      sg += w * g;
      sgg += w * g * g;
      sr += w * r;
      sgr += w * g * r;
    }
    const next = clamp(stiffness + (sw * sgr - sg * sr) / (sw * sgg - sg * sg), 0, B_MOST);
    // At a bound of the stiffness the height is the plain mean.
    const move = (sr - sg * (next - stiffness)) / sw;
    stiffness = next;
    height += move;
    if (Math.abs(move) < 1e-5 && round > 3) break;
  }
  let all = 0;
  let squares = 0;
  let measured = 0;
  let scatter = 0;
  for (const { y, n2, weight, measured: own } of points) {
    all += weight;
    squares += weight * weight;
    measured += (weight * own) ** 2;
    scatter += weight * (y - height - bend(n2)) ** 2;
  }
  const worth = (all * all) / squares;
  // Few partials show little scatter of their own: a usual string's counts as two more.
  const usual = ((scatter / all) * worth + 2 * BODY_CENTS ** 2) / (worth + 2);
  return {
    firstPartialHz: Math.exp((height + bend(1)) / CENTS),
    b: stiffness,
    sigmaCents: Math.sqrt(measured / (all * all) + (UNSHARED ** 2 * usual) / worth),
  };
}
