import type { Zone } from '../../../core/base';
import clsx from 'clsx';
import { sinceTime, plusMinus } from '../../parts/format';
import type { StringFriction } from '../../../core/friction';

const WIDE = 320;
const HALF = WIDE / 2;

/** One string between its flat limit and its sharp one: how wide, where it stands, and how wide it was before. */
function Span({ friction, fullCents }: { friction: StringFriction; fullCents: number }) {
  const last = friction.figures.at(-1)?.figure;
  const scale = (HALF - 10) / fullCents;
  const bar = (cents: number) => ({ x: HALF - (cents / 2) * scale, width: Math.max(2, cents * scale) });
  return (
    <svg viewBox={`0 0 ${WIDE} 34`} className="h-9 w-80 max-w-full shrink-0" aria-hidden="true">
      <rect width={HALF} height={34} fill="var(--water)" opacity={0.6} />
      <rect x={HALF} width={HALF} height={34} fill="var(--land)" opacity={0.6} />
      {friction.before && (
        <rect
          {...bar(friction.before.figure.cents)}
          y={5}
          height={24}
          fill="none"
          stroke="var(--ink2)"
          strokeDasharray="3 3"
        />
      )}
      {last && (
        <>
          <rect {...bar(last.cents)} y={10} height={14} rx={2} fill="var(--deep)" opacity={0.75} />
          <circle
            cx={HALF + (last.at * last.cents * scale) / 2}
            cy={17}
            r={6}
            fill="var(--sheet)"
            stroke="var(--ink)"
            strokeWidth={2}
          />
        </>
      )}
      <path d={`M${HALF} 0V34`} stroke="var(--ink)" />
    </svg>
  );
}

interface Props {
  strings: readonly StringFriction[];
  chosen: string;
  nowMs: number;
  zone: Zone;
  onChoose: (index: number) => void;
}

/** All strings side by side: what each can lose to its nut, and where it stands between its limits. */
export function Limits({ strings, chosen, nowMs, zone, onChoose }: Props) {
  const widest = Math.max(6, ...strings.flatMap((s) => [s.figures.at(-1), s.before].map((f) => f?.figure.cents ?? 0)));
  return (
    <ol aria-label="Friction by string" className="border-t border-line">
      {strings.map((s, i) => {
        const last = s.figures.at(-1);
        const oiled = s.lubricatedMs.at(-1);
        return (
          <li
            key={s.stringId}
            className={clsx(
              'flex items-center gap-4 border-b border-line border-l-4 py-1.5 pl-2 text-sm max-lg:flex-wrap',
              s.stringId === chosen ? 'border-l-deep bg-sheet' : 'border-l-transparent',
            )}
          >
            <button
              type="button"
              aria-pressed={s.stringId === chosen}
              aria-keyshortcuts={String(i + 1)}
              className="w-14 text-left text-xl font-bold max-sm:min-h-11"
              onClick={() => onChoose(i)}
            >
              {s.note}
            </button>
            <Span friction={s} fullCents={widest} />
            <span className="min-w-0 flex-1">
              {last ? (
                <>
                  <b className="figure">
                    {last.figure.cents.toFixed(1)} {plusMinus(last.figure.sdCents)}
                  </b>{' '}
                  cents
                  {s.before && (
                    <>
                      , before <span className="figure">{s.before.figure.cents.toFixed(1)}</span>
                    </>
                  )}
                  <span className="block text-xs text-ink2">
                    {sinceTime(last.atMs, nowMs, zone)}
                    {oiled !== undefined && `; lubricated ${sinceTime(oiled, nowMs, zone)}`}
                  </span>
                </>
              ) : (
                <span className="text-ink2">not measured</span>
              )}
            </span>
          </li>
        );
      })}
    </ol>
  );
}
