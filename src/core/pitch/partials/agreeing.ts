/** Degrees of freedom of what partials say about each other: few far ones do not drag the mean (Student's t, Lange et al. 1989). */
const NU = 3;
const ROUNDS = 20;
/** What the tails cost of the mean's weight (house estimate, set by the pitch benchmark). */
const TAILS = 1.3;
const MAD_TO_SD = 1.4826;

/**
 * The robust weighted mean of what partials say, cents, with its standard error; where they scatter more than their own errors,
 * those are too small for all alike.
 */
export function agreeing(said: readonly { cents: number; sd: number }[]): { mean: number; sigma: number } {
  const sorted = said.map((s) => s.cents).sort((a, b) => a - b);
  let mean = sorted[sorted.length >> 1]!;
  let all = 0;
  for (let i = 0; i < ROUNDS; i++) {
    const z = said.map((s) => Math.abs(s.cents - mean) / s.sd).sort((a, b) => a - b);
    const scale = Math.max(1, MAD_TO_SD * z[z.length >> 1]!);
    all = 0;
    let sum = 0;
    for (const s of said) {
      const u = (s.cents - mean) / (s.sd * scale);
      const w = (NU + 1) / (NU + u * u) / (s.sd * scale) ** 2;
      all += w;
      sum += w * s.cents;
    }
    mean = sum / all;
  }
  return { mean, sigma: Math.sqrt(TAILS / all) };
}
