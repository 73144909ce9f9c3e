import type { lifeSheet } from '../../../core/life';
import { Heads } from '../../parts/Heads';

function Lines({ name, lines }: { name: string; lines: readonly string[] }) {
  if (lines.length === 0) return null;
  return (
    <section aria-label={name} className="w-full">
      <h3 className="text-ink2">{name}</h3>
      {lines.map((line, i) => (
        <p key={i}>{line}</p>
      ))}
    </section>
  );
}

/** The last walk on a sheet for the owner: each string as it was found and as it was left, and what that rests on. */
export const Sheet = ({ sheet }: { sheet: ReturnType<typeof lifeSheet> }) =>
  sheet.rows.length === 0 ? (
    <p className="text-sm">Nothing is read yet.</p>
  ) : (
    <div className="flex flex-wrap gap-x-10 gap-y-2 text-sm">
      <table className="border-collapse">
        <Heads of={[['String'], ['As found', 'figures'], ['As left', 'figures']]} />
        <tbody>
          {sheet.rows.map((r) => (
            <tr key={r.note} className="border-t border-line">
              <th scope="row" className="pr-6 text-left font-bold">
                {r.note}
              </th>
              <td className="figure py-0.5 pr-6 text-right">{r.found}</td>
              <td className="figure py-0.5 pr-6 text-right">{r.left}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <dl className="grid grid-cols-[auto_auto] content-start gap-x-4 gap-y-0.5">
        {sheet.facts.map(([what, value]) => (
          <div key={what} className="contents">
            <dt className="text-ink2">{what}</dt>
            <dd className="figure">{value}</dd>
          </div>
        ))}
      </dl>
      <Lines name="Done in this walk" lines={sheet.done} />
      <Lines name="Remarked in this walk" lines={sheet.remarks} />
      <p className="w-full text-xs text-ink2">{sheet.note}</p>
    </div>
  );
