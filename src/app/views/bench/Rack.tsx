import clsx from 'clsx';
import { memo } from 'react';
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

const MINUTE = 60000;
const NONE: StringStatus[] = [];

interface EntryProps extends Pick<Props, 'zoneMin' | 'basePath' | 'onChoose'> {
  life: InstrumentLife;
  statuses: StringStatus[];
  isCurrent: boolean;
  /** The time, to the minute: nothing here is told more finely. */
  minuteMs: number;
}

/** One instrument of the rack; drawn anew when something of it has changed. */
const Entry = memo(function Entry({ life, statuses, isCurrent, minuteMs, zoneMin, basePath, onChoose }: EntryProps) {
  const due = Math.min(...statuses.map((s) => s.nextCheckMs ?? Infinity));
  const since = Math.max(...life.strings.map((s) => s.strungMs ?? 0));
  return (
    <Link
      to={`${basePath}/bench/${life.record.instrumentId}`}
      aria-current={isCurrent ? 'page' : undefined}
      onClick={onChoose}
      className={clsx(
        'mb-2 block shrink-0 rounded-lg border p-2.5 max-lg:w-40',
        isCurrent ? 'border-line bg-sheet' : 'border-transparent',
      )}
    >
      <span className="block text-sm font-semibold leading-tight">{life.record.name}</span>
      <span className="block text-xs text-ink2">
        {since > 0 ? `strung ${span(minuteMs - since)} ago` : 'strung long ago'}
      </span>
      {due < minuteMs && <span className="block text-xs text-ink2">{dueTime(due, minuteMs, zoneMin)}</span>}
      <RackBars
        cents={life.strings.map((_, k) => statuses[k]?.cents ?? null)}
        label={`Offsets: ${statuses.map((s) => (s.cents === null ? 'unread' : signed(s.cents))).join(', ')}`}
      />
    </Link>
  );
});

/** The instruments on the bench, each a row of small bars, one a string. */
export function Rack({ instruments, current, statuses, nowMs, zoneMin, basePath, onChoose }: Props) {
  return (
    <nav
      aria-label="Instruments on the bench"
      className="overflow-y-auto border-r border-line p-3 max-lg:col-span-2 max-lg:flex max-lg:items-start max-lg:gap-2 max-lg:border-b max-lg:pb-1 max-sm:col-span-1"
    >
      <p className="px-1 pb-2 text-xs font-medium text-ink2 max-lg:hidden">On the bench</p>
      {instruments.map((life) => (
        <Entry
          key={life.record.instrumentId}
          life={life}
          statuses={statuses.get(life.record.instrumentId) ?? NONE}
          isCurrent={life === current}
          minuteMs={Math.floor(nowMs / MINUTE) * MINUTE}
          zoneMin={zoneMin}
          basePath={basePath}
          onChoose={onChoose}
        />
      ))}
      <Link
        to={`${basePath}/instrument`}
        className="block shrink-0 rounded-lg px-2.5 py-2 text-sm font-medium text-deep underline underline-offset-4"
      >
        Add an instrument
      </Link>
    </nav>
  );
}
