import clsx from 'clsx';
import { memo, useEffect, useRef } from 'react';
import { Link } from 'react-router';
import type { InstrumentLife, StringStatus } from '../../core/records';
import { dueTime, signed, span } from '../parts/format';
import { RackBars } from '../parts/RackBars';
import { useNow } from '../world/now';
import { WORK } from '../../core/plan';
import { usePlan, useShow } from '../world/plan';
import { useStatuses } from '../world/status';
import { useWorld } from '../world/world';
import { pathTo, type InstrumentViewLine } from './views';

const MINUTE = 60000;
const NONE: StringStatus[] = [];

interface EntryProps {
  life: InstrumentLife;
  statuses: StringStatus[];
  isCurrent: boolean;
  /** The time, to the minute: nothing here is told more finely. */
  minuteMs: number;
  zoneMin: number;
  to: string;
  /** When the plan of a show names it next; undefined without a plan. */
  visitMs: number | undefined;
}

/** One instrument of the rack; drawn anew when something of it has changed. */
const Entry = memo(function Entry({ life, statuses, isCurrent, minuteMs, zoneMin, to, visitMs }: EntryProps) {
  const link = useRef<HTMLAnchorElement>(null);
  const due = visitMs ?? Math.min(...statuses.map((s) => s.nextCheckMs ?? Infinity));
  const since = Math.max(...life.strings.map((s) => s.strungMs ?? 0));
  useEffect(() => {
    if (isCurrent) link.current?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [isCurrent]);
  return (
    <Link
      ref={link}
      to={to}
      aria-current={isCurrent ? 'page' : undefined}
      className={clsx(
        'mb-2 block shrink-0 rounded-lg border p-2.5 max-lg:mb-0 max-lg:w-36 max-lg:p-1.5',
        isCurrent ? 'border-line bg-sheet' : 'border-transparent',
      )}
    >
      <span className="block text-sm font-semibold leading-tight max-lg:truncate">{life.record.name}</span>
      <span className="block text-xs text-ink2 max-lg:sr-only">
        {since > 0 ? `strung ${span(minuteMs - since)} ago` : 'strung long ago'}
      </span>
      {due < minuteMs && (
        <span className="block text-xs text-ink2 max-lg:sr-only">{dueTime(due, minuteMs, zoneMin)}</span>
      )}
      <RackBars
        cents={life.strings.map((_, k) => statuses[k]?.cents ?? null)}
        label={`Offsets: ${statuses.map((s) => (s.cents === null ? 'unread' : signed(s.cents))).join(', ')}`}
      />
    </Link>
  );
});

/** All instruments on the bench, each a row of small bars, one a string; the one in hand is marked, the view is kept. */
export function Rack({ current, view }: { current: InstrumentLife; view: InstrumentViewLine }) {
  const { bench, zoneMin, basePath } = useWorld();
  const now = useNow(5000);
  const { of } = useStatuses(bench.instruments, now, bench.curtain?.curtainMs ?? null, current.record.instrumentId);
  const show = useShow();
  const { plan } = usePlan(show);
  const visitOf = (id: string) =>
    plan && show?.instrumentIds.includes(id)
      ? (plan.items.find((i) => i.instrumentId === id && WORK.has(i.what))?.atMs ?? Infinity)
      : undefined;
  return (
    <nav
      aria-label="Instruments on the bench"
      className="relative overflow-auto border-r border-line p-3 print:hidden max-lg:flex max-lg:items-start max-lg:gap-1 max-lg:border-r-0 max-lg:border-b max-lg:px-3 max-lg:py-1"
    >
      <p className="px-1 pb-2 text-xs font-medium text-ink2 max-lg:hidden">On the bench</p>
      {bench.instruments.map((life) => (
        <Entry
          key={life.record.instrumentId}
          life={life}
          statuses={of.get(life.record.instrumentId) ?? NONE}
          isCurrent={life === current}
          minuteMs={Math.floor(now / MINUTE) * MINUTE}
          zoneMin={zoneMin}
          to={pathTo(basePath, view, life)}
          visitMs={visitOf(life.record.instrumentId)}
        />
      ))}
      <Link
        to={`${basePath}/add`}
        className="block shrink-0 rounded-lg px-2.5 py-3 text-sm font-medium text-deep underline underline-offset-4"
      >
        Add<span className="max-lg:sr-only"> an instrument</span>
      </Link>
    </nav>
  );
}
