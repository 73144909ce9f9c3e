import clsx from 'clsx';
import type { FittingStep } from '../../../core/fitting';

/** The step in hand is to be seen. */
const seen = (item: HTMLElement | null) => item?.scrollIntoView({ block: 'nearest' });

/** All steps of the fitting, and which is in hand. */
export function StepList({ steps, index }: { steps: readonly FittingStep[]; index: number }) {
  return (
    <nav aria-label="Steps" className="w-44 shrink-0 overflow-y-auto border-r border-line px-2 py-3 max-xl:hidden">
      <ol className="text-[13px]">
        {steps.map((s, i) => (
          <li
            key={`${s.stringIds.join()}/${s.code}`}
            ref={i === index ? seen : undefined}
            aria-current={i === index ? 'step' : undefined}
            className={clsx(
              'border-l-4 py-1 pl-2',
              i === index ? 'border-ink font-bold' : i < index ? 'border-deep text-ink2' : 'border-line',
            )}
          >
            {s.title}
          </li>
        ))}
      </ol>
    </nav>
  );
}
