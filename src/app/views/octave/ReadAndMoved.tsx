import { localDay, type Zone } from '../../../core/base';
import type { AdjustmentRecord } from '../../../core/log';
import type { LengthUnit } from '../../../core/strings';
import { clockTime, signed } from '../../parts/format';
import { type Octaves, direction, sizeOf } from '../../../core/octave';

const SHOWN = 12;

/** What was read and what was moved, newest first. */
export function ReadAndMoved({ octaves, zone, unit }: { octaves: Octaves; zone: Zone; unit: LengthUnit }) {
  const { strings, adjustments } = octaves;
  const noteOf = (id: string) => strings.find((s) => s.stringId === id)?.note;
  const said = ({ what, moveMm, stringIds }: AdjustmentRecord): string => {
    if (what === 'action') return `action ${moveMm > 0 ? 'raised' : 'lowered'} ${sizeOf(moveMm, unit)}`;
    const of = what === 'saddle' ? ` of ${stringIds.map(noteOf).join(', ')}` : '';
    return `${what.replace('-', ' ')}${of} moved ${sizeOf(moveMm, unit)} ${direction(moveMm)}`;
  };
  const passes = strings.flatMap((s) => s.passes.map((p) => ({ s, p })));
  const lines = [
    ...adjustments.map((a) => ({ atMs: a.atMs, words: said(a) })),
    ...[...new Set(passes.map(({ p }) => p.passId))].map((passId) => {
      const own = passes.filter(({ p }) => p.passId === passId);
      return {
        atMs: Math.max(...own.map(({ p }) => p.atMs)),
        words: `read: ${own.map(({ s, p }) => `${s.note} ${signed(p.errors.errorCents)}`).join(', ')}`,
      };
    }),
  ].sort((a, b) => b.atMs - a.atMs);
  const day = (ms: number) => localDay(ms, zone);
  return (
    <section aria-labelledby="octave-log" className="pt-3 text-sm">
      <h2 id="octave-log" className="text-base font-semibold">
        Read and moved
      </h2>
      <ol>
        {lines.slice(0, SHOWN).map((l) => (
          <li key={`${l.atMs}/${l.words}`} className="flex gap-3 border-t border-line py-1">
            <span className="figure shrink-0">
              {day(l.atMs)} {clockTime(l.atMs, zone)}
            </span>
            {l.words}
          </li>
        ))}
      </ol>
    </section>
  );
}
