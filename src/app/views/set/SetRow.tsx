import type { StringPlan } from '../../../core/log';
import {
  forceWords,
  lengthWords,
  MATERIAL_NAMES,
  ofBreaking,
  REFUSE_SHARE,
  WARN_SHARE,
  type NamedSpec,
  type StringLoad,
  balanceWords,
  breaksWords,
} from '../../../core/strings';
import { GaugeInput } from '../../parts/GaugeInput';
import { NoteName } from '../../parts/NoteName';
import { ShareBar } from '../../parts/ShareBar';
import type { Units } from '../../world/units';

interface Props {
  plan: StringPlan;
  spec: NamedSpec;
  load: StringLoad | undefined;
  balance: number | null;
  longestMm: number;
  strongestN: number;
  meanN: number;
  units: Units;
  onGauge: (mm: number | null) => void;
}

const THICKER = 12;
/** Drawn length of the longest string, px of the drawing's own. */
const DRAWN = 300;

/** One string as a string: its length and thickness to scale, its pull, its way to the breaking load. */
export function SetRow({ plan, spec, load, balance, longestMm, strongestN, meanN, units, onGauge }: Props) {
  const wide = (DRAWN * spec.lengthMm) / longestMm;
  const thick = spec.gaugeMm ? Math.max(0.8, (THICKER * spec.gaugeMm * DRAWN) / longestMm) : 1;
  const wound = spec.material.startsWith('wound');
  const share = load?.shareOfBreaking ?? null;
  const pull = (n: number) => `${Math.min(100, (100 * n) / (1.12 * strongestN))}%`;
  return (
    <li className="grid grid-cols-[4.6rem_minmax(6rem,1fr)_7.6rem_minmax(7rem,0.7fr)_minmax(7rem,0.7fr)] items-center gap-x-4 border-b border-line py-2 max-sm:grid-cols-[4rem_1fr_7rem]">
      <span>
        <NoteName note={spec.note} className="text-[26px] font-bold leading-none" />
        <span className="figure block text-xs text-ink2">{spec.frequencyHz.toFixed(1)} Hz</span>
      </span>
      <span className="block min-w-0">
        <svg viewBox={`0 0 ${DRAWN + 8} 22`} className="block h-6 w-full" preserveAspectRatio="none" aria-hidden="true">
          <line
            x1={4}
            x2={4 + wide}
            y1={11}
            y2={11}
            stroke={wound ? 'var(--sand)' : 'var(--ink2)'}
            strokeWidth={thick}
            strokeDasharray={wound ? '2.2 0.7' : undefined}
          />
          <path d={`M4 2v18M${4 + wide} 2v18`} stroke="var(--ink)" strokeWidth={1.6} />
        </svg>
        <span className="block truncate text-xs text-ink2">
          <span className="figure">{lengthWords(spec.lengthMm, units.length)}</span> {MATERIAL_NAMES[spec.material]}
        </span>
      </span>
      <GaugeInput
        value={spec.gaugeMm ?? null}
        onChange={(mm) => !Number.isNaN(mm ?? 0) && onGauge(mm)}
        label={`Gauge of ${plan.note}`}
        className="figure w-full rounded-md border border-ink2 bg-sheet px-2 py-0.5 text-sm"
      />
      <span className="block max-sm:col-start-2">
        <span className="relative block h-3.5 bg-line/50">
          {load && <span className="absolute inset-y-0 left-0 bg-sand" style={{ width: pull(load.tensionN) }} />}
          {meanN > 0 && (
            <span className="absolute -inset-y-2 border-l border-dashed border-ink" style={{ left: pull(meanN) }} />
          )}
        </span>
        <span className="block text-xs text-ink2">
          {load ? (
            <>
              <b className="figure text-[13px] text-ink">{forceWords(load.tensionN, units.force)}</b>
              {balance !== null && `, ${balanceWords(balance)}`}
            </>
          ) : (
            'pull unknown: give the figure on the packet'
          )}
        </span>
      </span>
      <span className="block max-sm:col-span-2">
        {share === null ? (
          <span className="text-xs text-ink2">strength unknown</span>
        ) : (
          <>
            <ShareBar
              share={share}
              warn={WARN_SHARE}
              refuse={REFUSE_SHARE}
              label={`${spec.note} pulls ${ofBreaking(share)}`}
            />
            <span className="block text-xs text-ink2">
              <b className={share > WARN_SHARE ? 'figure text-[13px] text-rust' : 'figure text-[13px] text-ink'}>
                {(100 * share).toFixed(0)} %
              </b>
              , {breaksWords(load!.headroomSemitones!)}
            </span>
          </>
        )}
      </span>
    </li>
  );
}
