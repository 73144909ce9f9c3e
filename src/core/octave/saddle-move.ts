import { saddleMoveMm } from './saddle-law';
import type { BridgeResponse } from './response';
import type { AdjustmentRecord } from '../log';
import type { StringOctave, Octaves } from './string-octave';

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

/**
 * Which move of its saddle is told for an octave error, longer positive, mm: by what this saddle did before where that was learned, else by
 * the law of lengths.
 */
export const toldMoveMm = (lengthMm: number, errorCents: number, { moves, centsPerMm }: BridgeResponse): number =>
  moves > 0 ? -errorCents / centsPerMm : saddleMoveMm(lengthMm, errorCents);
