import { signed } from '../../parts/format';
import type { Coupling } from '../../../core/bridge';

/** What turning each string up by ten cents as read does to the others. */
export function CouplingTable({ notes, coupling: { g, w } }: { notes: readonly string[]; coupling: Coupling }) {
  return (
    <table className="text-sm">
      <caption className="pb-1 text-left text-xs text-ink2">
        Raise this string by 10 cents, and the others move by (cents)
      </caption>
      <thead>
        <tr>
          <th scope="col" className="sr-only">
            turned
          </th>
          {notes.map((n, j) => (
            <th key={j} scope="col" className="px-2 text-right font-semibold">
              {n}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {notes.map((n, i) => (
          <tr key={i} className="border-t border-line">
            <th scope="row" className="py-0.5 pr-3 text-left font-semibold">
              {n}
            </th>
            {notes.map((_, j) => (
              <td key={j} className="figure px-2 text-right">
                {i === j ? '+10' : signed((-10 * g[j]! * w[i]!) / (1 - g[i]! * w[i]!))}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
