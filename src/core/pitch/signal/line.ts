/** A straight line, y = mean + slope (x - meanX), and the weighted square of its lever. */
export interface Line {
  slope: number;
  mean: number;
  meanX: number;
  sxx: number;
}

/** Weighted least squares. */
export function weightedLine(x: Float64Array, y: Float64Array, w: Float64Array): Line {
  let sw = 0;
  let sx = 0;
  let sy = 0;
  for (let k = 0; k < x.length; k++) {
    sw += w[k]!;
    sx += w[k]! * x[k]!;
    sy += w[k]! * y[k]!;
  }
  const meanX = sx / sw;
  const mean = sy / sw;
  let sxx = 0;
  let sxy = 0;
  for (let k = 0; k < x.length; k++) {
    const d = x[k]! - meanX;
    sxx += w[k]! * d * d;
    sxy += w[k]! * d * (y[k]! - mean);
  }
  return { slope: sxx > 0 ? sxy / sxx : 0, mean, meanX, sxx };
}

/** What a line leaves of y. */
export const leftOver = (y: Float64Array, x: Float64Array, { slope, mean, meanX }: Line): Float64Array =>
  y.map((v, k) => v - mean - slope * (x[k]! - meanX));
