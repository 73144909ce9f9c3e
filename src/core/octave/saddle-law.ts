import { cents, ratioOfCents } from '../music';

/** Pitches of the thread of usual saddle screws, mm a turn: metric M3 (ISO 261) and 4-40 UNC (ASME B1.1). */
export const THREADS_MM = { M3: 0.5, '4-40': 0.635 } as const;

/**
 * How far the saddle must go, longer positive, for the octave to agree: x = Lo L12 (s − 1) / (Lo − s L12), s = 2^(e/1200), from
 * pitch inverse to length at the same tension (Mersenne).
 * @param lengthMm present open length Lo
 * @param stoppedMm present length from the 12th fret, half of it where not known
 * @example saddleMoveMm(648, 5.0) // 1.88
 */
export function saddleMoveMm(lengthMm: number, errorCents: number, stoppedMm = lengthMm / 2): number {
  const s = ratioOfCents(errorCents);
  return (lengthMm * stoppedMm * (s - 1)) / (lengthMm - s * stoppedMm);
}

/** Octave error left after the saddle went moveMm (longer positive), cents: the law of {@link saddleMoveMm} turned round. */
export function errorAfterMove(lengthMm: number, errorCents: number, moveMm: number, stoppedMm = lengthMm / 2): number {
  return errorCents + cents((lengthMm + moveMm) * stoppedMm, (stoppedMm + moveMm) * lengthMm);
}
