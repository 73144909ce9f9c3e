import { fittedWords } from '../../../core/fitting';
import type { InstrumentLife } from '../../../core/log';
import { Button } from '../../parts/Button';
import { WORK_ID } from '../../parts/focus';
import { Pending } from '../../parts/Pending';
import { NoteName } from '../../parts/NoteName';
import { useNow } from '../../world/now';
import { useSaid } from '../../world/said';

/** What was fitted, how far each string dropped in its rounds, when to look again. */
export function FittingDone({
  life,
  stringIds,
  onEnd,
}: {
  life: InstrumentLife;
  stringIds: string[];
  onEnd: () => void;
}) {
  const now = useNow();
  const said = useSaid(life, now);
  return (
    <section id={WORK_ID} tabIndex={-1} className="flex w-full max-w-2xl flex-col gap-5 overflow-y-auto p-6">
      <h2 data-testid="step" data-code="end" className="text-3xl font-bold">
        Fitted
      </h2>
      <ul className="border-t border-line">
        {life.strings
          .filter((s) => stringIds.includes(s.plan.stringId))
          .map((s) => {
            const check = said.of('next-check', s.plan.stringId);
            return (
              <li key={s.plan.stringId} className="flex items-baseline gap-5 border-b border-line py-2">
                <NoteName note={s.plan.note} className="w-14 text-2xl font-bold" />
                <span className="grow">
                  {fittedWords(s)}
                  <span className="block text-sm text-ink2">{said.of('rounds-did', s.plan.stringId)?.text}</span>
                </span>
                <span className="text-sm text-ink2">
                  {said.waiting ? <Pending /> : (check?.text ?? 'Check it in two minutes.')}
                </span>
              </li>
            );
          })}
      </ul>
      <p className="text-ink2">Are the tails trimmed, the ends bent over, the pieces in the bin?</p>
      <div>
        <Button strong hint="Enter" onClick={onEnd}>
          To the bench
        </Button>
      </div>
    </section>
  );
}
