import type { Zone } from '../../../core/base';
import clsx from 'clsx';
import type { PlanItem } from '../../../core/plan';
import type { StringLife } from '../../../core/log';
import { MATERIAL_NAMES } from '../../../core/strings';
import { clockTime, dueTime, dueWords, signed } from '../../parts/format';
import { Lane } from '../../parts/Lane';
import { NoteName } from '../../parts/NoteName';
import { stringVisitWords } from '../../parts/visits';
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
  status: StringStatus | undefined;
  /** When the plan of a show names it next; null without a plan. */
  visit: PlanItem | null | undefined;
  nowMs: number;
  zone: Zone;
  curtainMs: number | null;
  current: boolean;
  height: number;
  onChoose: () => void;
}

/** What is to be known of a string's state, in its own words. @param visit when the plan names it next; null without a plan */
function stateLine(status: StringStatus, visit: PlanItem | null | undefined, nowMs: number, zone: Zone): string {
  if (status.state === 'unread') return 'pluck it once';
  if (status.slippedMs !== null) return `at ${clockTime(status.slippedMs, zone)}, read twice`;
  if (visit !== null) return stringVisitWords(status, visit, nowMs, zone);
  if (status.nextCheckMs === null) return 'too few readings yet';
  if (status.off) return (status.cents ?? 0) < 0 ? 'bring it up now' : 'go below, then up';
  const due = dueTime(status.nextCheckMs, nowMs, zone);
  if (due.startsWith('now')) return due;
  return status.state === 'holding' ? `holds until ${due}` : `check ${dueWords(status.nextCheckMs, nowMs, zone)}`;
}

/** One string's lane: who it is, its history and forecast, how it stands. */
export function LaneRow({ number, life, status, visit, nowMs, zone, curtainMs, current, height, onChoose }: Props) {
  const { plan } = life;
  const cents = status?.cents ?? null;
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
  const byNow = status?.byNow;
  // What it is likely to have become since it was read, where that can be told from the figure.
  const expected =
    cents !== null && byNow && Math.abs(byNow.cents - cents) > EXPECTED_FROM
      ? `now about ${signed(byNow.cents, 0)}`
      : '';
  return (
    <li className={clsx('border-b border-line', current && 'bg-sheet')}>
      <button
        type="button"
        onClick={onChoose}
        aria-current={current ? 'true' : undefined}
        aria-label={`String ${number}, ${plan.note}, ${status?.state ?? 'unread'}${cents === null ? '' : `, ${signed(cents)} cents`}`}
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
            label={`History of ${plan.note}: ${life.readings.length} readings`}
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
              {status?.state ?? 'unread'}
            </span>
          </span>
          <span className="text-right text-[12px] text-ink2">{status && stateLine(status, visit, nowMs, zone)}</span>
          {tall && status && status.leadCents !== 0 && (
            <span className="text-right text-[12px] text-ink2">left at {signed(status.leadCents)}</span>
          )}
          {tall && expected && <span className="text-right text-[12px] text-ink2">{expected}</span>}
        </span>
      </button>
    </li>
  );
}
