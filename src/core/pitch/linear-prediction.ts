/** A decaying tone: decay 1/s, angular frequency rad/s. */
export interface Tone {
  decay: number;
  omega: number;
}

export interface TwoTones {
  fast: Tone;
  slow: Tone;
  /** Complex size of the fast and of the slow tone at time 0: real, imaginary, real, imaginary. */
  sizes: [number, number, number, number];
}

/**
 * Two decaying tones from the linear prediction f_k = x f_(k-m) + y f_(k-2m) (Prony 1795, by least squares), then their sizes.
 * @param re, im complex frames at equally spaced times
 * @param timeS of the frames, s
 * @param m how many frames the prediction reaches: a tone must turn by less than half a circle in them
 * @param plausible refuses poles before their sizes are sought
 */
export function predictTwoTones(
  re: Float64Array,
  im: Float64Array,
  timeS: Float64Array,
  m: number,
  plausible: (fast: Tone, slow: Tone) => boolean,
): TwoTones | undefined {
  const pair = solvePair(re.length - 2 * m, (k, side) => {
    side[0] = re[k + m]!;
    side[1] = im[k + m]!;
    side[2] = re[k]!;
    side[3] = im[k]!;
    side[4] = re[k + 2 * m]!;
    side[5] = im[k + 2 * m]!;
  });
  if (!pair) return undefined;
  const [xr, xi, yr, yi] = pair;
  // Roots of z^2 - x z - y.
  const dr = xr * xr - xi * xi + 4 * yr;
  const di = 2 * xr * xi + 4 * yi;
  const size = Math.sqrt(Math.hypot(dr, di));
  const angle = 0.5 * Math.atan2(di, dr);
  const spacing = m * (timeS[1]! - timeS[0]!);
  const tone = (sign: number): Tone => {
    const zr = (xr + sign * size * Math.cos(angle)) / 2;
    const zi = (xi + sign * size * Math.sin(angle)) / 2;
    return { decay: -Math.log(Math.hypot(zr, zi)) / spacing, omega: Math.atan2(zi, zr) / spacing };
  };
  const [one, two] = [tone(1), tone(-1)];
  const [fast, slow] = one.decay > two.decay ? [one, two] : [two, one];
  if (!plausible(fast, slow)) return undefined;
  const sizes = sizesOf(re, im, timeS, fast, slow);
  return sizes && { fast, slow, sizes };
}

/** Complex sizes at time 0 of two tones, by least squares; undefined where the two cannot be told apart. */
export function sizesOf(
  re: Float64Array,
  im: Float64Array,
  timeS: Float64Array,
  fast: Tone,
  slow: Tone,
): TwoTones['sizes'] | undefined {
  return solvePair(re.length, (k, side) => {
    const t = timeS[k]!;
    const a = Math.exp(-fast.decay * t);
    const b = Math.exp(-slow.decay * t);
    side[0] = a * Math.cos(fast.omega * t);
    side[1] = a * Math.sin(fast.omega * t);
    side[2] = b * Math.cos(slow.omega * t);
    side[3] = b * Math.sin(slow.omega * t);
    side[4] = re[k]!;
    side[5] = im[k]!;
  });
}

const row = new Float64Array(6);

/** Complex least squares with two unknowns, f = x a + y b: rows of (a, b, f) as real and imaginary parts. */
function solvePair(
  rows: number,
  fill: (k: number, row: Float64Array) => void,
): [number, number, number, number] | undefined {
  let aa = 0;
  let bb = 0;
  let abr = 0;
  let abi = 0;
  let afr = 0;
  let afi = 0;
  let bfr = 0;
  let bfi = 0;
  for (let k = 0; k < rows; k++) {
    fill(k, row);
    const ar = row[0]!;
    const ai = row[1]!;
    const br = row[2]!;
    const bi = row[3]!;
    const fr = row[4]!;
    const fi = row[5]!;
    aa += ar * ar + ai * ai;
    bb += br * br + bi * bi;
    abr += ar * br + ai * bi;
    abi += ar * bi - ai * br;
    afr += ar * fr + ai * fi;
    afi += ar * fi - ai * fr;
    bfr += br * fr + bi * fi;
    bfi += br * fi - bi * fr;
  }
  const det = aa * bb - abr * abr - abi * abi;
  if (!(det > 1e-13 * aa * bb)) return undefined;
  return [
    (bb * afr - abr * bfr + abi * bfi) / det,
    (bb * afi - abr * bfi - abi * bfr) / det,
    (aa * bfr - abr * afr - abi * afi) / det,
    (aa * bfi - abr * afi + abi * afr) / det,
  ];
}
