import { acrossMm } from './across';
import { ageTrend, grewAlone } from './age';
import { bridgeLine } from './bridge-line';
import { judgeFrets } from './frets';
import { octavePasses, responseOf, type OctavePass } from './passes';
import { setupOf } from './setup';
import { judgeString } from './verdict';
import type { AdjustmentRecord, Bench, InstrumentLife } from '../log';
import { traitsOf } from '../strings';
import { DAY } from '../base';
import { moveUnder, toldMoveMm } from './saddle-move';
import type { StringOctave, Octaves } from './string-octave';

/** Work after which every string's octave is to be read again. */
const REWORKED = new Set<AdjustmentRecord['what']>(['nut', 'action', 'other']);

/** How the present string's error moves with its age. */
function trendOf(passes: readonly OctavePass[], strungMs: number | null, limitCents: number) {
  const own = passes.filter((p) => p.atMs >= (strungMs ?? 0));
  const agesFromMs = strungMs ?? own[0]?.atMs ?? 0;
  const at = own.map((p) => ({
    ageDays: (p.atMs - agesFromMs) / DAY,
    errorCents: p.errors.errorCents,
    sigmaCents: p.errors.sigmaCents,
  }));
  return { trend: ageTrend(at, limitCents), agesFromMs };
}

/** Everything the octave passes of an instrument say. */
export function octavesOf(life: InstrumentLife, bench: Bench): Octaves {
  const { instrumentId } = life.record;
  const setup = setupOf(bench, instrumentId);
  const { limitCents } = setup;
  const loose = traitsOf(life.record).holds === 'loose-bridge';
  const adjustments = bench.adjustments.filter((a) => a.instrumentId === instrumentId);
  const across = acrossMm(life.strings.map((s) => s.plan.note.replace(/-?\d+$/, '')));
  const widest = Math.max(...across, 1);
  const trends = life.strings.map(({ plan, strungMs }) =>
    trendOf(octavePasses(bench.touches, instrumentId, plan.stringId), strungMs, limitCents),
  );
  const alone = grewAlone(trends.map((t) => t.trend));
  const strings = life.strings.map(({ plan, strungMs }, i): StringOctave => {
    const { stringId, note, lengthMm } = plan;
    const passes = octavePasses(bench.touches, instrumentId, stringId);
    const last = passes[passes.length - 1];
    const response = responseOf(passes, adjustments, lengthMm, (a) => moveUnder(a, stringId, across[i]! / widest));
    // Moved since the last pass: what was read is not what stands there now.
    const moved =
      last && adjustments.some((a) => a.atMs > last.atMs && moveUnder(a, stringId, across[i]! / widest) !== 0);
    const e = last?.errors.errorCents ?? 0;
    const moveMm = !last || moved ? null : toldMoveMm(lengthMm, e, response);
    return {
      stringId,
      note,
      lengthMm,
      acrossMm: across[i]!,
      passes,
      last,
      verdict: last && judgeString(last.errors, last.readingSigma, lengthMm, alone[i]),
      confirmed:
        last !== undefined &&
        (!last.once ||
          alone[i] === true ||
          passes
            .slice(0, -1)
            .some((p) => p.atMs >= (strungMs ?? 0) && judgeString(p.errors, p.readingSigma, lengthMm) === 'string')),
      frets: last && last.frets.length > 1 ? judgeFrets(lengthMm, last.frets) : undefined,
      response,
      moveMm,
      moveSigma: last ? Math.abs(last.errors.sigmaCents / response.centsPerMm) : 0,
      stale:
        last && strungMs !== null && last.atMs < strungMs
          ? 'new string'
          : last && last.atMs < life.record.atMs
            ? 'edited'
            : last && adjustments.some((a) => a.atMs > last.atMs && REWORKED.has(a.what))
              ? 'reworked'
              : null,
      movedMm: adjustments.reduce((sum, a) => sum + moveUnder(a, stringId, across[i]! / widest), 0),
      ...trends[i]!,
      alone: alone[i]!,
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
    setup,
  };
}
