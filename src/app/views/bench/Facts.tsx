import { useMemo, type ReactNode } from 'react';
import type { StringLife } from '../../../core/log';
import { breakingWarning, type StringLoad } from '../../../core/strings';
import { clockTime, dueTime, signed, plusMinus } from '../../parts/format';
import { useWorld } from '../../world/world';
import { repeatability, type StringStatus } from '../../../core/status';

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline justify-between gap-3 py-0.5">
      <dt className="text-[13px] text-ink2">{name}</dt>
      <dd className="figure text-right text-[13px] font-bold">{children}</dd>
    </div>
  );
}

interface Props {
  life: StringLife;
  status: StringStatus | undefined;
  nowMs: number;
  load: StringLoad | undefined;
  /** When the plan of a show names it next; undefined where it does not. */
  visitMs: number | undefined;
}

/** What else is known of the string in hand. */
export function Facts({ life, status, nowMs, load, visitMs }: Props) {
  const { bench, zone } = useWorld();
  const curtainMs = bench.curtain?.curtainMs ?? null;
  const last = life.readings[life.readings.length - 1];
  const share = load?.shareOfBreaking ?? null;
  const breaking = breakingWarning(life.plan.note, share);
  const repeats = useMemo(() => repeatability(life.readings), [life.readings]);
  return (
    <>
      <dl className="border-t border-line pt-2">
        {last?.arrival && last.arrival !== 'untouched' && (
          <Fact name="Arrived">
            {last.arrival}
            {last.arrival !== 'from below' && ', may fall'}
          </Fact>
        )}
        {last && (
          <Fact name={`Reading${last.source === 'typed' ? ', typed' : ''}`}>
            {last.frequencyHz.toFixed(2)} Hz {plusMinus(last.sigmaCents)} ¢
          </Fact>
        )}
        {repeats && <Fact name={`Readings repeat within (${repeats.pairs} pairs)`}>{plusMinus(repeats.cents)} ¢</Fact>}
        {status && status.totalFallCents !== null && (
          <Fact name="Fallen in all">{Math.round(status.totalFallCents)} ¢</Fact>
        )}
        {status?.atCurtain && curtainMs !== null && (
          <Fact name={`At ${clockTime(curtainMs, zone)}, if untouched`}>
            {signed(status.atCurtain.cents, 0)} ±{((status.atCurtain.high - status.atCurtain.low) / 2).toFixed(0)} ¢
          </Fact>
        )}
        {visitMs !== undefined ? (
          <Fact name="Next check">{dueTime(visitMs, nowMs, zone)}</Fact>
        ) : status && status.nextCheckMs !== null ? (
          <Fact name={status.off ? 'Next check after this one' : 'Next check'}>
            {dueTime(status.nextCheckMs, nowMs, zone)}
          </Fact>
        ) : (
          last && <Fact name="Forecast">too few readings yet</Fact>
        )}
        {load && (
          <Fact name="Tension, share of breaking load">
            {load.tensionN.toFixed(0)} N{share !== null && `, ${(100 * share).toFixed(0)} %`}
          </Fact>
        )}
      </dl>
      {breaking && (
        <p role="alert" className="rounded-md border border-rust p-2 text-sm text-rust">
          {breaking.message}
        </p>
      )}
    </>
  );
}
