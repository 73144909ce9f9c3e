import clsx from 'clsx';
import type { StringLife } from '../../../core/log';
import { offsetWords } from '../../../core/music';
import { MATERIAL_NAMES } from '../../../core/strings';
import { signed } from '../../parts/format';
import { Lane } from '../../parts/Lane';
import { NoteName } from '../../parts/NoteName';
import { Pending } from '../../parts/Pending';
import type { SaidOf } from '../../world/said';
import { TOLERANCE_CENTS } from '../../../core/check';
import { ageFromMs, tellingReadings, type StringStatus } from '../../../core/status';

/** Lanes are drawn afresh as often as the forecasts on them. */
const LANE_STEP_MS = 15000;
/** A move smaller than this since the reading is not worth a word, cents. */
const EXPECTED_FROM = 1;
const NOTHING_AHEAD: StringStatus['ahead'] = [];

interface Props {
  number: number;
  life: StringLife;
  /** undefined while it is being worked out. */
  status: StringStatus | undefined;
  said: SaidOf;
  nowMs: number;
  curtainMs: number | null;
  current: boolean;
  height: number;
  onChoose: () => void;
}

/** One string's lane: who it is, its history and forecast, how it stands. */
export function LaneRow({ number, life, status, said, nowMs, curtainMs, current, height, onChoose }: Props) {
  const { plan } = life;
  // What was read is known before anything is worked out of it.
  const cents = life.readings.at(-1)?.cents ?? null;
  const tone =
    cents === null
      ? 'text-ink2'
      : status && status.slippedMs !== null
        ? 'text-rust'
        : cents < -TOLERANCE_CENTS
          ? 'text-deep'
          : status?.off
            ? 'text-sand'
            : 'text-ink';
  const tall = height > 60;
  const next = said.of('string-next', plan.stringId);
  const byNow = said.of('offset-now', plan.stringId);
  // What it is likely to have become since it was read, where that can be told from the figure.
  const hasMoved = cents !== null && byNow && Math.abs(Number(byNow.value) - cents) > EXPECTED_FROM;
  const lead = status?.leadCents ?? 0;
  const state = status?.state ?? (cents === null ? 'unread' : '');
  return (
    <li className={clsx('border-b border-line', current && 'bg-sheet')}>
      <button
        type="button"
        onClick={onChoose}
        aria-current={current ? 'true' : undefined}
        aria-label={[`String ${number}`, plan.note, state, cents === null ? '' : offsetWords(cents)]
          .filter(Boolean)
          .join(', ')}
        className={clsx(
          'grid w-full grid-cols-[5.2rem_1fr_8.2rem] items-stretch text-left max-sm:grid-cols-[4.2rem_1fr_7rem]',
          current && 'shadow-[inset_4px_0_0_var(--ink)]',
        )}
        style={{ height }}
      >
        <span className="flex flex-col justify-center pl-3">
          <NoteName note={plan.note} className={clsx('font-bold leading-none', tall ? 'text-[26px]' : 'text-lg')} />
          {tall && (
            <span className="mt-1 text-xs leading-tight text-ink2">
              {plan.gaugeMm !== null && <span className="figure">{plan.gaugeMm.toFixed(2)} </span>}
              {MATERIAL_NAMES[plan.material].replace(/^plain /, '').replace(' wound steel', ' wound')}
            </span>
          )}
        </span>
        <span className="block min-w-0 py-px">
          <Lane
            readings={tellingReadings(life)}
            bornMs={ageFromMs(life)}
            nowMs={Math.ceil(nowMs / LANE_STEP_MS) * LANE_STEP_MS}
            ahead={status?.ahead ?? NOTHING_AHEAD}
            curtainMs={curtainMs}
            toleranceCents={TOLERANCE_CENTS}
            height={height}
            label={`History of ${plan.note}`}
          />
        </span>
        <span className="flex flex-col items-end justify-center pr-3 leading-tight">
          <span className={clsx('flex items-baseline gap-2', tall && 'flex-col items-end gap-0')}>
            <span className={clsx('figure font-bold leading-tight', tall ? 'text-2xl' : 'order-2 text-base', tone)}>
              {cents === null ? '–' : signed(cents)}
            </span>
            <span
              className={clsx(
                'text-[13px] font-semibold leading-tight',
                status && status.slippedMs !== null ? 'text-rust' : 'text-ink',
              )}
            >
              {state || <Pending />}
            </span>
          </span>
          <span className="text-right text-[12px] text-ink2">{next?.brief ?? (cents !== null && <Pending />)}</span>
          {tall && lead !== 0 && <span className="text-right text-[12px] text-ink2">left at {signed(lead)}</span>}
          {tall && hasMoved && <span className="text-right text-[12px] text-ink2">{byNow.brief}</span>}
        </span>
      </button>
    </li>
  );
}
