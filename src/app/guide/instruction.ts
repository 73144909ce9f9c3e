import { arrival, motion, type TrackPoint } from '../../core/pitch';
import type { PassStep } from '../../core/records';

/** One short sentence: what to do now. */
export function instructionFor(
  step: PassStep,
  note: string,
  liveCents: number | null,
  trail: TrackPoint[],
  toleranceCents: number,
  listening: boolean,
): string {
  if (!listening) return 'Press Space to listen';
  if (step.confirm) return `It fell at once: pluck ${note} again`;
  if (step.purpose === 'found') return liveCents === null ? `Pluck ${note}, touch no tuner` : 'Let it ring';
  if (liveCents === null) return step.again ? `Pluck ${note}: go below, then up` : `Pluck ${note} and turn`;
  if (step.again && liveCents > -toleranceCents && arrival(trail, toleranceCents) !== 'from below')
    return `Take ${note} below, then up`;
  const off = Math.round(Math.abs(liveCents));
  if (liveCents < -toleranceCents) return `Bring it up ${Math.max(1, off)} ${off === 1 ? 'cent' : 'cents'}`;
  if (liveCents > toleranceCents) return 'Go below, then up';
  return motion(trail) === 'steady' ? 'Hold still, let it ring' : 'Nearly there: stop';
}
