import clsx from 'clsx';
import { Link } from 'react-router';
import type { InstrumentLife, StringStatus } from '../../../core/records';
import { dueTime, signed, span } from '../../parts/format';
import { RackBars } from '../../parts/RackBars';

interface Props {
  instruments: InstrumentLife[];
  current: InstrumentLife;
  statuses: Map<string, StringStatus[]>;
  nowMs: number;
  zoneMin: number;
  basePath: string;
  onChoose: () => void;
}

/** The instruments on the bench, each a row of small bars, one a string. */
export function Rack({ instruments, current, statuses, nowMs, zoneMin, basePath, onChoose }: Props) {
  return (
    <nav
      aria-label="Instruments on the bench"
      className="overflow-y-auto border-r border-line p-3 max-lg:col-span-2 max-lg:flex max-lg:items-start max-lg:gap-2 max-lg:border-b max-lg:pb-1 max-sm:col-span-1"
    >
      <p className="px-1 pb-2 text-xs font-medium text-ink2 max-lg:hidden">On the bench</p>
      {instruments.map((i) => {
        const list = statuses.get(i.record.instrumentId) ?? [];
        const due = Math.min(...list.map((s) => s.nextCheckMs ?? Infinity));
        const since = Math.max(...i.strings.map((s) => s.strungMs ?? 0));
        return (
          <Link
            key={i.record.instrumentId}
            to={`${basePath}/bench/${i.record.instrumentId}`}
            aria-current={i === current ? 'page' : undefined}
            onClick={onChoose}
            className={clsx(
              'mb-2 block shrink-0 rounded-lg border p-2.5 max-lg:w-40',
              i === current ? 'border-line bg-sheet' : 'border-transparent',
            )}
          >
            <span className="block text-sm font-semibold leading-tight">{i.record.name}</span>
            <span className="block text-xs text-ink2">
              {since > 0 ? `strung ${span(nowMs - since)} ago` : 'strung long ago'}
            </span>
            {due < nowMs && <span className="block text-xs text-ink2">{dueTime(due, nowMs, zoneMin)}</span>}
            <RackBars
              cents={i.strings.map((_, k) => list[k]?.cents ?? null)}
              label={`Offsets: ${list.map((s) => (s.cents === null ? 'unread' : signed(s.cents))).join(', ')}`}
            />
          </Link>
        );
      })}
      <Link
        to={`${basePath}/instrument`}
        className="block shrink-0 rounded-lg px-2.5 py-2 text-sm font-medium text-deep underline underline-offset-4"
      >
        Add an instrument
      </Link>
    </nav>
  );
}
