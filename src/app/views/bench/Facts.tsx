import type { ReactNode } from 'react';
import type { StringLife } from '../../../core/log';
import type { Statement, StatementKind } from '../../../core/says';
import { breakingWarning, type StringLoad } from '../../../core/strings';
import { dueTime, plusMinus } from '../../parts/format';
import { Pending } from '../../parts/Pending';
import type { SaidOf } from '../../world/said';
import { useWorld } from '../../world/world';

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
  said: SaidOf;
  load: StringLoad | undefined;
  nowMs: number;
}

/** What else is known of the string in hand. */
export function Facts({ life, said, load, nowMs }: Props) {
  const { bench, zone } = useWorld();
  const { stringId, note } = life.plan;
  const last = life.readings.at(-1);
  const breaking = breakingWarning(note, load?.shareOfBreaking ?? null);
  const of = (kind: StatementKind) => said.of(kind, stringId);
  const next = of('string-next');
  const check = next?.atMs === undefined ? of('next-check') : next;
  const atShow = said.each('offset-at').find((s) => s.string === stringId && s.atMs === bench.curtain?.curtainMs);
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
          <Fact name={last.source === 'typed' ? 'Reading, typed' : 'Reading'}>
            {last.frequencyHz.toFixed(2)} Hz {plusMinus(last.sigmaCents)} ¢
          </Fact>
        )}
        <FactOf name="Readings repeat within" of={of('repeatability')} />
        <FactOf name="Fallen in all" of={of('fallen')} />
        <FactOf name="At the show, if untouched" of={atShow} />
        {check && (
          <Fact name={check === next ? 'Next check' : 'Next check after this one'}>
            {dueTime(check.atMs!, nowMs, zone)}
          </Fact>
        )}
        {last && said.waiting && (
          <Fact name="Forecast">
            <Pending />
          </Fact>
        )}
        {load && <Fact name="Tension">{load.tensionN.toFixed(0)} N</Fact>}
        <FactOf name="Share of its breaking load" of={of('headroom')} />
      </dl>
      {breaking && (
        <p role="alert" className="rounded-md border border-rust p-2 text-sm text-rust">
          {breaking.message}
        </p>
      )}
    </>
  );
}

/** What is said, in a row; nothing where it is not. */
const FactOf = ({ name, of }: { name: string; of: Statement | undefined }) =>
  of ? <Fact name={name}>{of.brief}</Fact> : null;
