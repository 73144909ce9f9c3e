import clsx from 'clsx';
import { memo, useEffect, useMemo, useRef } from 'react';
import { Link } from 'react-router';
import type { InstrumentLife } from '../../core/log';
import { signed } from '../parts/format';
import { pathToNext } from '../parts/next';
import { RackBars } from '../parts/RackBars';
import { useNow } from '../world/now';
import type { NextThing } from '../../core/says';
import { useAllWalks } from '../world/plan';
import { useNextThings, useStatuses } from '../world/status';
import { useWorld } from '../world/world';
import { pathTo, type InstrumentViewLine } from './views';
import type { StringStatus } from '../../core/status';

const NONE: StringStatus[] = [];

interface EntryProps {
  life: InstrumentLife;
  statuses: StringStatus[];
  isCurrent: boolean;
  to: string;
  next: NextThing | undefined;
}

/** One instrument of the rack and its one next thing; drawn anew when something of it has changed. */
const Entry = memo(function Entry({ life, statuses, isCurrent, to, next }: EntryProps) {
  const link = useRef<HTMLLIElement>(null);
  const { basePath } = useWorld();
  const { instrumentId, name } = life.record;
  useEffect(() => {
    if (isCurrent) link.current?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [isCurrent]);
  return (
    <li
      ref={link}
      className={clsx(
        'mb-1.5 shrink-0 rounded-lg border max-lg:mb-0 max-lg:w-40',
        isCurrent ? 'border-line bg-sheet' : 'border-transparent',
      )}
    >
      <Link
        to={to}
        aria-current={isCurrent ? 'page' : undefined}
        className="block px-2.5 pt-2 max-lg:px-1.5 max-lg:pt-1.5"
      >
        <span className="block text-sm font-semibold leading-tight max-lg:truncate">{name}</span>
        <RackBars
          cents={life.record.strings.map((_, k) => statuses[k]?.cents ?? null)}
          label={`Offsets: ${statuses.map((s) => (s.cents === null ? 'unread' : signed(s.cents))).join(', ')}`}
        />
      </Link>
      {next && (
        <Link
          to={pathToNext(basePath, instrumentId, next)}
          className="block px-2.5 pt-0.5 pb-2 text-[13px] leading-tight text-deep underline decoration-1 underline-offset-2 max-lg:truncate max-lg:px-1.5 max-lg:pb-1.5"
          aria-label={`${next.words}, ${name}`}
        >
          {next.words}
        </Link>
      )}
    </li>
  );
});

/** So many stand beside the one in hand; a rack of more has its own view. */
const BESIDE = 12;

/** The instruments that stand at the side: all of a few, or the freshest and the one in hand. */
function nearby(all: readonly InstrumentLife[], current: InstrumentLife): readonly InstrumentLife[] {
  const first = all.slice(0, BESIDE);
  return first.includes(current) ? first : [current, ...first.slice(1)];
}

/** The instruments on the bench, each a row of small bars, one a string; the one in hand is marked, the view is kept. */
export function Rack({ current, view }: { current: InstrumentLife; view: InstrumentViewLine }) {
  const { bench, basePath } = useWorld();
  const now = useNow(5000);
  const shown = useMemo(() => nearby(bench.instruments, current), [bench.instruments, current]);
  const { of } = useStatuses(shown, now, bench.curtain?.curtainMs ?? null, current.record.instrumentId);
  const walksOf = useAllWalks();
  const { instrumentId: inHandId } = current.record;
  const nexts = useNextThings(shown, now, walksOf, inHandId);
  return (
    <nav
      aria-label="Instruments"
      className="relative overflow-auto border-r border-line p-3 print:hidden max-lg:flex max-lg:items-start max-lg:gap-1 max-lg:border-r-0 max-lg:border-b max-lg:px-3 max-lg:py-1 short:max-lg:hidden"
    >
      <p className="px-1 pb-2 text-xs font-medium text-ink2 max-lg:hidden">Instruments, and what is next</p>
      <ol className="max-lg:flex max-lg:gap-1">
        {shown.map((life, i) => (
          <Entry
            key={life.record.instrumentId}
            life={life}
            statuses={of.get(life.record.instrumentId) ?? NONE}
            isCurrent={life === current}
            to={pathTo(basePath, view, life)}
            next={nexts[i]}
          />
        ))}
      </ol>
      <Link
        to={`${basePath}/add`}
        className="block shrink-0 rounded-lg px-2.5 py-3 text-sm font-medium text-deep underline underline-offset-4"
      >
        Add<span className="max-lg:sr-only"> an instrument</span>
      </Link>
      <Link
        to={`${basePath}/rack`}
        className="block shrink-0 rounded-lg px-2.5 py-1 text-sm font-medium text-deep underline underline-offset-4 max-lg:py-3"
      >
        All {bench.instruments.length}
      </Link>
    </nav>
  );
}
