import { REMEDIES, type Cause, type CauseAnswer } from '../../../core/causes';
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

/** What to do about a cause, with its caution. */
export function ToDo({ cause }: { cause: Cause }) {
  const { steps, expect, caution } = REMEDIES[cause];
  return (
    <section aria-label="What to do about it" className="max-w-2xl border-t border-line pt-2">
      <ul className="flex flex-col gap-1.5 text-lg">
        {steps.map((s) => (
          <li key={s} className="border-l-4 border-water pl-3">
            {s}
          </li>
        ))}
      </ul>
      <p className="py-2 text-sm">{expect} The maker’s and a qualified repairer’s word comes first.</p>
      {caution && <Caution>{caution}</Caution>}
    </section>
  );
}
