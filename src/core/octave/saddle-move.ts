import { cents, ratioOfCents } from '../music';
import type { AdjustmentRecord } from '../log';
import type { StringOctave, Octaves } from './octaves';

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

/** How far an adjustment moved the bridge under one string, mm. */
export function moveUnder(
  a: Pick<AdjustmentRecord, 'what' | 'stringIds' | 'moveMm'>,
  stringId: string,
  share: number,
): number {
  if (a.what === 'low-foot') return a.moveMm * (1 - share);
  if (a.what === 'high-foot') return a.moveMm * share;
  return a.what === 'saddle' && a.stringIds.includes(stringId) ? a.moveMm : 0;
}

/** Moves smaller than this are left, mm. */
const LEAST_MM = 0.1;

/** What is to be moved now, as it will be noted: saddles one by one, or the feet of a loose bridge. */
export function movesToMake({
  line,
  loose,
  strings,
  setup: { travelMm },
}: Octaves): Pick<AdjustmentRecord, 'what' | 'stringIds' | 'moveMm'>[] {
  const worth = (moveMm: number) => Math.abs(moveMm) >= LEAST_MM;
  const all = strings.map((s) => s.stringId);
  if (loose)
    return line
      ? [
          { what: 'low-foot' as const, stringIds: all, moveMm: line.footMoves.lowMm },
          { what: 'high-foot' as const, stringIds: all, moveMm: line.footMoves.highMm },
        ].filter((m) => worth(m.moveMm))
      : [];
  return strings.flatMap((s) => {
    if (s.verdict !== 'saddle' || s.moveMm === null) return [];
    const moveMm = Math.sign(s.moveMm) * Math.min(Math.abs(s.moveMm), travelLeftMm(s, s.moveMm, travelMm));
    return worth(moveMm) ? [{ what: 'saddle' as const, stringIds: [s.stringId], moveMm }] : [];
  });
}

/** How far a saddle's screw still goes to the side of a move, mm; Infinity where nobody said its travel. */
export const travelLeftMm = ({ movedMm }: Pick<StringOctave, 'movedMm'>, moveMm: number, travelMm: number | null) =>
  travelMm === null ? Infinity : Math.max(0, travelMm - Math.sign(moveMm) * movedMm);

/** The moves that no change since has made doubtful. */
export function freshMoves(octaves: Octaves) {
  const stale = new Set(octaves.strings.filter((s) => s.stale !== null).map((s) => s.stringId));
  return movesToMake(octaves).filter((m) => !m.stringIds.some((id) => stale.has(id)));
}
