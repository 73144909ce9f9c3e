import { REMEDIES, stepsFor, type CauseAnswer, type CauseBuild } from '../../../core/causes';
import type { Cause } from '../../../core/codes';
import { Caution } from '../../parts/Caution';

/** Chances below this are not worth a line. */
const LISTED = 0.05;

/** How likely each cause is, as bars: a figure would say more than is known. */
export const Chances = ({ causes }: Pick<CauseAnswer, 'causes'>) => (
  <ul aria-label="Chances" className="max-w-xl py-3 text-sm">
    {causes
      .filter((c) => c.probability >= LISTED)
      .map(({ cause, probability }) => (
        <li key={cause} className="flex items-center gap-3 py-0.5">
          <span className="w-64">{REMEDIES[cause].name}</span>
          <span className="h-2.5 flex-1 bg-water/60">
            <span className="block h-full bg-deep" style={{ width: `${(100 * probability).toFixed(0)}%` }} />
          </span>
        </li>
      ))}
  </ul>
);

/** What to do about a cause, or about several that no test can part; with cautions. */
export function Remedies({ causes, build }: { causes: readonly Cause[]; build: CauseBuild }) {
  return (
    <section aria-label="What to do about it" className="max-w-2xl border-t border-line pt-2">
      {causes.map((cause) => {
        const { name, expect } = REMEDIES[cause];
        return (
          <div key={cause} className="pb-2">
            {causes.length > 1 && <h2 className="pb-1 font-semibold">Where {name}</h2>}
            <ul className="flex flex-col gap-1.5 text-lg">
              {stepsFor(cause, build).map((s) => (
                <li key={s} className="border-l-4 border-water pl-3">
                  {s}
                </li>
              ))}
            </ul>
            <p className="pt-1 text-sm">{expect}</p>
          </div>
        );
      })}
      <p className="pb-2 text-sm">The maker’s and a qualified repairer’s word comes first.</p>
      {[...new Set(causes.flatMap((c) => REMEDIES[c].caution ?? []))].map((c) => (
        <Caution key={c}>{c}</Caution>
      ))}
    </section>
  );
}
