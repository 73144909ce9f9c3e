import clsx from 'clsx';
import { EFFORTS, type Effort, type PlanSum, sumLines } from '../../../core/plan';
import { EFFORT_WORDS } from './words';

/** The same show for everybody's patience: what each asks for and leaves. */
export function Choices({
  choices,
  effort,
  onEffort,
}: {
  choices: Record<Effort, PlanSum> | undefined;
  effort: Effort;
  onEffort: (effort: Effort) => void;
}) {
  return (
    <section aria-labelledby="choices" className="border-t border-line py-3">
      <h2 id="choices" className="pb-1 text-base font-semibold">
        How often will you come
      </h2>
      <ul className="grid grid-cols-3 gap-2 text-sm">
        {EFFORTS.map((e) => {
          const sum = choices?.[e];
          return (
            <li key={e}>
              <button
                type="button"
                aria-pressed={effort === e}
                onClick={() => onEffort(e)}
                className={clsx(
                  'h-full w-full rounded-md border px-2 py-1.5 text-left',
                  effort === e ? 'border-ink bg-ink text-sheet' : 'border-ink2 bg-sheet',
                )}
              >
                <b className="block">{EFFORT_WORDS[e]}</b>
                {sum && (
                  <>
                    {sumLines(sum).map((line) => (
                      <span key={line} className="figure block">
                        {line}
                      </span>
                    ))}
                  </>
                )}
              </button>
            </li>
          );
        })}
      </ul>
      <p className="pt-1 text-xs text-ink2">Checks before + during the show; minutes of work; time out of tune.</p>
    </section>
  );
}
