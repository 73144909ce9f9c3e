import { memo } from 'react';
import type { InstrumentLife } from '../../../core/log';
import type { SaidOf } from '../../world/said';
import { useWorld } from '../../world/world';
import { LaneRow } from './LaneRow';
import { clamp } from '../../../core/base';
import type { StringStatus } from '../../../core/status';

/** All lanes together are about so high, each within these, px. */
const ALL_PX = 520;
const LEAST_PX = 44;
const MOST_PX = 86;

interface Props {
  life: InstrumentLife;
  statuses: StringStatus[];
  said: SaidOf;
  nowMs: number;
  focusId: string;
  onChoose: (index: number) => void;
}

/** The strings' lanes in the instrument's own order. */
export const Lanes = memo(function Lanes({ life, statuses, said, nowMs, focusId, onChoose }: Props) {
  const { bench } = useWorld();
  const curtainMs = bench.curtain?.curtainMs ?? null;
  const height = clamp(Math.floor(ALL_PX / life.strings.length), LEAST_PX, MOST_PX);
  return (
    <>
      <ol className="border-t border-line">
        {life.strings.map((s, i) => (
          <LaneRow
            key={s.plan.stringId}
            number={i + 1}
            life={s}
            status={statuses.find((t) => t.stringId === s.plan.stringId)}
            said={said}
            nowMs={nowMs}
            curtainMs={curtainMs}
            current={s.plan.stringId === focusId}
            height={height}
            onChoose={() => onChoose(i)}
          />
        ))}
      </ol>
      <p className="pt-1 text-xs text-ink2">
        Left to right: age since it was put on. Grey: the forecast if nobody touches it.
        {curtainMs !== null && ' Dashed: the show starts.'}
      </p>
    </>
  );
});
