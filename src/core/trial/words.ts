import type { Trial } from './judge';

/** The verdict in plain words. */
export function verdictWords(trial: Trial): string {
  const { q05, q50, q95 } = trial.ratio;
  const share = (r: number) => `${Math.abs(100 * (1 - r)).toFixed(0)}`;
  if (trial.verdict === 'less') return `Treated strings fell ${share(q50)} % less (${share(q95)} to ${share(q05)} %).`;
  if (trial.verdict === 'more') return `Treated strings fell ${share(q50)} % more (${share(q05)} to ${share(q95)} %).`;
  return trial.more;
}
