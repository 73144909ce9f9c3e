import { useMemo } from 'react';
import {
  acrossMm,
  ageTrend,
  bridgeLine,
  judgeFrets,
  judgeString,
  octavePasses,
  responseOf,
  saddleMoveMm,
  type AgeTrend,
  type BridgeLine,
  type BridgeResponse,
  type FretsFit,
  type OctavePass,
  type OctaveVerdict,
} from '../../../core/octave';
import type { AdjustmentRecord, Bench, InstrumentLife } from '../../../core/records';
import { traitsOf } from '../../../core/strings';

export interface StringOctave {
  stringId: string;
  note: string;
  lengthMm: number;
  acrossMm: number;
  passes: OctavePass[];
  last: OctavePass | undefined;
  verdict: OctaveVerdict | undefined;
  frets: FretsFit | undefined;
  response: BridgeResponse;
  /** Saddle's move for this string alone, longer positive, mm. */
  moveMm: number | null;
  moveSigma: number;
  trend: AgeTrend | undefined;
  /** It was read on the string before this one, or before the set was edited. */
  stale: 'new string' | 'edited' | null;
  /** All moves under this string so far, mm. */
  movedMm: number;
}

export interface Octaves {
  strings: StringOctave[];
  /** For a loose straight bridge with readings of all its outer strings. */
  line: BridgeLine | undefined;
  loose: boolean;
  adjustments: AdjustmentRecord[];
}

const DAY = 86400000;

/** How far an adjustment moved the bridge under one string, mm. */
export function moveUnder(a: AdjustmentRecord, stringId: string, share: number): number {
  if (a.what === 'low-foot') return a.moveMm * (1 - share);
  if (a.what === 'high-foot') return a.moveMm * share;
  return a.stringIds.includes(stringId) ? a.moveMm : 0;
}

/** Everything the octave passes of an instrument say. */
export function useOctaves(life: InstrumentLife | undefined, bench: Bench, limitCents: number): Octaves {
  return useMemo(() => {
    if (!life) return { strings: [], line: undefined, loose: false, adjustments: [] };
    const { instrumentId, family } = life.record;
    const loose = traitsOf(family).holds === 'loose-bridge';
    const adjustments = bench.adjustments.filter((a) => a.instrumentId === instrumentId);
    const across = acrossMm(life.strings.map((s) => s.plan.note.replace(/-?\d+$/, '')));
    const widest = Math.max(...across, 1);
    const strings = life.strings.map(({ plan, strungMs }, i): StringOctave => {
      const { stringId, note, lengthMm } = plan;
      const passes = octavePasses(bench.touches, instrumentId, stringId);
      const last = passes[passes.length - 1];
      const response = responseOf(passes, adjustments, lengthMm, (a) => moveUnder(a, stringId, across[i]! / widest));
      // Moved since the last pass: what was read is not what stands there now.
      const moved =
        last && adjustments.some((a) => a.atMs > last.atMs && moveUnder(a, stringId, across[i]! / widest) !== 0);
      const e = last?.errors.errorCents ?? 0;
      const moveMm = !last || moved ? null : response.moves > 0 ? -e / response.centsPerMm : saddleMoveMm(lengthMm, e);
      const own = passes.filter((p) => p.atMs >= (strungMs ?? 0));
      return {
        stringId,
        note,
        lengthMm,
        acrossMm: across[i]!,
        passes,
        last,
        verdict: last && judgeString(last.errors, last.readingSigma, lengthMm),
        frets: last && last.frets.length > 1 ? judgeFrets(lengthMm, last.frets) : undefined,
        response,
        moveMm,
        moveSigma: last ? Math.abs(last.errors.sigmaCents / response.centsPerMm) : 0,
        stale:
          last && strungMs !== null && last.atMs < strungMs
            ? 'new string'
            : last && last.atMs < life.record.atMs
              ? 'edited'
              : null,
        movedMm: adjustments.reduce((sum, a) => sum + moveUnder(a, stringId, across[i]! / widest), 0),
        trend: ageTrend(
          own.map((p) => ({
            ageDays: (p.atMs - (strungMs ?? own[0]!.atMs)) / DAY,
            errorCents: p.errors.errorCents,
            sigmaCents: p.errors.sigmaCents,
          })),
          limitCents,
        ),
      };
    });
    const read = strings.filter((s) => s.last && s.moveMm !== null);
    const all = read.length === strings.length;
    return {
      strings,
      line:
        loose && all
          ? bridgeLine(
              read.map((s) => ({ acrossMm: s.acrossMm, lengthMm: s.lengthMm, errorCents: s.last!.errors.errorCents })),
            )
          : undefined,
      loose,
      adjustments,
    };
  }, [life, bench, limitCents]);
}
