import { TriangleAlert } from 'lucide-react';
import { REMOVALS, removalWords, repeatedBreak, type FittingStep } from '../../../core/fitting';
import type { StringLife } from '../../../core/log';
import type { FamilyTraits } from '../../../core/strings';
import { Button } from '../../parts/Button';
import { WORK_ID } from '../../parts/focus';
import { Drawing } from './Drawing';

interface Props {
  step: FittingStep;
  of: string;
  /** It is the work: nothing listens beside it. */
  owns: boolean;
  own: StringLife | undefined;
  /** How the instrument is built. */
  traits: FamilyTraits;
  /** All strings that it is about. */
  strings: readonly StringLife[];
  removal: number;
  onRemoval: (index: number) => void;
  note: string;
  /** How, for a step whose way was chosen. */
  hint: string | undefined;
}

/** One step: what, why, how, a drawing, and the caution where it is due. */
export function StepScreen({ step, of, owns, own, traits, strings, removal, onRemoval, note, hint }: Props) {
  const broken = step.kind === 'remove' && own ? repeatedBreak(own, REMOVALS[removal]!.removal, traits) : undefined;
  return (
    <section
      {...(owns ? { id: WORK_ID, tabIndex: -1 } : {})}
      aria-labelledby="step-title"
      className="min-h-0 min-w-0 flex-1 overflow-y-auto px-6 py-4 max-md:overflow-visible max-sm:px-4"
    >
      <div className="flex max-w-2xl flex-col gap-4">
        <p className="text-sm text-ink2">
          {of}
          {strings.length > 1 && `, for ${strings.map((s) => s.plan.note).join(', ')}`}
        </p>
        <h2 id="step-title" data-testid="step" data-code={step.code} className="text-3xl font-bold leading-tight">
          {step.title}
        </h2>
        <p className="text-lg text-ink2">{step.why}</p>
        {(step.points.length > 0 || hint) && (
          <ul className="flex list-none flex-col gap-2 text-xl">
            {[...(hint ? [hint] : []), ...step.points].map((p) => (
              <li key={p} className="border-l-4 border-water pl-3">
                {p}
              </li>
            ))}
          </ul>
        )}
        {step.kind === 'remove' && (
          <fieldset>
            <legend className="pb-2 text-sm text-ink2">Why it goes</legend>
            <div className="flex flex-wrap gap-2">
              {REMOVALS.map((r, i) => (
                <Button
                  key={r.words}
                  hint={String(i + 1)}
                  strong={removal === i}
                  aria-pressed={removal === i}
                  onClick={() => onRemoval(i)}
                >
                  {removalWords(r, traits)}
                </Button>
              ))}
            </div>
          </fieldset>
        )}
        {broken && (
          <p role="alert" className="text-lg font-semibold text-rust">
            {broken}
          </p>
        )}
        {step.caution && (
          <p className="flex gap-3 rounded-lg border border-rust p-3 text-base text-rust">
            <TriangleAlert size={22} className="shrink-0" aria-label="Caution" />
            {step.caution}
          </p>
        )}
        {note && <p className="text-sm">Note: {note}</p>}
        {step.picture && <Drawing picture={step.picture} />}
      </div>
    </section>
  );
}
