import { Heads } from '../../parts/Heads';
import { signed, plusMinus } from '../../parts/format';
import type { Octaves } from '../../../core/octave';
import { HOUR } from '../../../core/base';

/** What the last moves did: octave errors before and after them, for the wall or the customer. */
export function BeforeAfter({ octaves, words }: { octaves: Octaves; words: (mm: number) => string }) {
  const { strings, adjustments } = octaves;
  const firstMs = adjustments[adjustments.length - 1]?.atMs;
  if (firstMs === undefined) return null;
  // Moves of one sitting count as one.
  const sinceMs = adjustments.find((a) => firstMs - a.atMs < HOUR)!.atMs;
  const rows = strings.map((s) => ({
    s,
    before: s.passes.findLast((p) => p.atMs < sinceMs),
    after: s.passes.findLast((p) => p.atMs > firstMs),
  }));
  if (!rows.some((r) => r.before && r.after)) return null;
  const cents = (p: (typeof rows)[number]['before']) =>
    p ? `${signed(p.errors.errorCents)} ${plusMinus(p.errors.sigmaCents)}` : '–';
  return (
    <section aria-labelledby="before-after" className="pt-3 text-sm print:text-lg">
      <h2 id="before-after" className="text-base font-semibold">
        Before and after, cents
      </h2>
      <table className="text-left">
        <Heads of={[['String'], ['before'], ['moved'], ['after']]} />
        <tbody className="figure">
          {rows.map(({ s, before, after }) => (
            <tr key={s.stringId} className="border-t border-line">
              <th scope="row" className="pr-6">
                {s.note}
              </th>
              <td className="pr-6">{cents(before)}</td>
              <td className="pr-6">{Math.abs(s.movedMm) < 0.05 ? '–' : words(s.movedMm)}</td>
              <td>{cents(after)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
