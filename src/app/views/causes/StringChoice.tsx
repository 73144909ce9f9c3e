import type { InstrumentLife } from '../../../core/log';
import { Button } from '../../parts/Button';

/** The strings of an instrument as buttons, one pressed. */
export const StringChoice = ({
  life,
  chosen,
  onChoose,
}: {
  life: InstrumentLife;
  chosen: string;
  onChoose: (index: number) => void;
}) => (
  <div role="group" aria-label="Which string" className="flex flex-wrap gap-1.5 pb-2">
    {life.strings.map(({ plan }, i) => (
      <Button
        key={plan.stringId}
        hint={String(i + 1)}
        strong={plan.stringId === chosen}
        aria-pressed={plan.stringId === chosen}
        onClick={() => onChoose(i)}
      >
        {plan.note}
      </Button>
    ))}
  </div>
);
