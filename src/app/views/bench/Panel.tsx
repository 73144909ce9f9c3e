import clsx from 'clsx';
import { useMemo, type ReactNode } from 'react';
import type { Figure } from '../../../core/pass';
import type { TrackPoint } from '../../../core/pitch';
import { repeatability, type StringLife, type StringStatus } from '../../../core/records';
import { REFUSE_SHARE, WARN_SHARE, type StringLoad } from '../../../core/strings';
import { clockTime, dueTime, signed } from '../../parts/format';
import { ageLine } from '../../parts/age';
import { NoteName } from '../../parts/NoteName';
import { Waterline } from '../../parts/Waterline';
import { TOLERANCE_CENTS } from '../../store/status';

interface Props {
  heading: string;
  life: StringLife;
  status: StringStatus | undefined;
  liveCents: number | null;
  trail: TrackPoint[];
  /** Where it was last heard well, when it is not heard now. */
  faded: Figure | null;
  instruction: string;
  message: string;
  nowMs: number;
  zoneMin: number;
  curtainMs: number | null;
  load: StringLoad | undefined;
  children?: ReactNode;
}

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline justify-between gap-3 py-0.5">
      <dt className="text-[13px] text-ink2">{name}</dt>
      <dd className="figure text-right text-[13px] font-bold">{children}</dd>
    </div>
  );
}

/** The one string in hand: its name and offset in figures for 1.5 m, one thing to do, the waterline, the rest small. */
export function Panel({
  heading,
  life,
  status,
  liveCents,
  trail,
  faded,
  instruction,
  message,
  nowMs,
  zoneMin,
  curtainMs,
  load,
  children,
}: Props) {
  const shown = liveCents ?? faded?.cents ?? status?.cents ?? null;
  const old = liveCents === null && faded === null ? ageLine(status, nowMs, zoneMin) : '';
  const last = life.readings[life.readings.length - 1];
  const share = load?.shareOfBreaking ?? null;
  const repeats = useMemo(() => repeatability(life.readings), [life.readings]);
  return (
    <div className="flex flex-col gap-2">
      <h2 className="text-sm font-semibold text-ink2">{heading}</h2>
      <div className="flex items-center justify-between">
        <NoteName note={life.plan.note} className="text-[64px] font-bold leading-none" />
        <span
          data-testid="live-cents"
          className={clsx(
            'figure text-[44px] font-bold leading-none',
            liveCents === null && 'opacity-80',
            shown === null
              ? 'text-ink2'
              : shown < -TOLERANCE_CENTS
                ? 'text-deep'
                : shown > TOLERANCE_CENTS
                  ? 'text-sand'
                  : 'text-ink',
          )}
        >
          {shown === null ? '–' : signed(shown)}
        </span>
      </div>
      {old && (
        <p data-testid="age" className="text-right text-[13px] text-ink2">
          {old}
        </p>
      )}
      <p role="status" data-testid="instruction" className="min-h-7 text-xl font-semibold">
        {instruction}
      </p>
      <Waterline
        trail={trail}
        faded={faded?.cents ?? null}
        toleranceCents={TOLERANCE_CENTS}
        label={`Live pitch of ${life.plan.note} against its target`}
      />
      <p role="status" data-testid="message" className="min-h-10 text-sm leading-snug text-ink">
        {message}
      </p>
      {children}
      <dl className="border-t border-line pt-2">
        {last?.arrival && last.arrival !== 'untouched' && (
          <Fact name="Arrived">
            {last.arrival}
            {last.arrival !== 'from below' && ', may fall'}
          </Fact>
        )}
        {last && (
          <Fact name={`Reading${last.source === 'typed' ? ', typed' : ''}`}>
            {last.frequencyHz.toFixed(2)} Hz ±{last.sigmaCents.toFixed(1)} ¢
          </Fact>
        )}
        {repeats && <Fact name={`Repeats within (${repeats.pairs} pairs)`}>±{repeats.cents.toFixed(2)} ¢</Fact>}
        {status && status.totalFallCents !== null && (
          <Fact name="Fallen in all since strung">{Math.round(status.totalFallCents)} ¢</Fact>
        )}
        {status?.atCurtain && curtainMs !== null && (
          <Fact name={`Expected by ${clockTime(curtainMs, zoneMin)}, left alone`}>
            {signed(status.atCurtain.cents, 0)} ±{((status.atCurtain.high - status.atCurtain.low) / 2).toFixed(0)} ¢
          </Fact>
        )}
        {status && status.nextCheckMs !== null ? (
          <Fact name={Math.abs(status.cents ?? 0) > TOLERANCE_CENTS ? 'Next check after this one' : 'Next check'}>
            {dueTime(status.nextCheckMs, nowMs, zoneMin)}
          </Fact>
        ) : (
          last && <Fact name="Forecast">too few readings yet</Fact>
        )}
        {load && (
          <Fact name="Tension, share of breaking">
            {load.tensionN.toFixed(0)} N{share !== null && `, ${(100 * share).toFixed(0)} %`}
          </Fact>
        )}
      </dl>
      {share !== null && share > WARN_SHARE && (
        <p role="alert" className="rounded-md border border-rust p-2 text-sm text-rust">
          {share > REFUSE_SHARE
            ? 'This string would be at its breaking load: do not bring it up. Check gauge and note, and ask the instrument’s maker.'
            : 'This string stands close to breaking: keep your face out of its plane and turn slowly.'}
        </p>
      )}
    </div>
  );
}
