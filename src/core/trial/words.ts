import { counted } from '../base';
import type { Trial } from './judge';

/** The verdict in plain words. */
export function verdictWords(trial: Trial): string {
  const { q05, q50, q95 } = trial.ratio;
  const share = (r: number) => `${Math.abs(100 * (1 - r)).toFixed(0)}`;
  if (trial.verdict === 'less') return `Treated strings fell ${share(q50)} % less (${share(q95)} to ${share(q05)} %).`;
  if (trial.verdict === 'more') return `Treated strings fell ${share(q50)} % more (${share(q05)} to ${share(q95)} %).`;
  return trial.more;
}

/** How the slopes of both sides compare, for those who do not see the drawing. */
export const ratioWords = ({ ratio: { q05, q50, q95 }, usable }: Trial): string =>
  `Ratio of the slopes, treated to untreated: ${q50.toFixed(2)}, ${q05.toFixed(2)} to ${q95.toFixed(2)}, from ${counted(usable, 'pair')}`;
