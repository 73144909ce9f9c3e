import {
  flexRender,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type RowSelectionState,
  type SortingState,
} from '@tanstack/react-table';
import clsx from 'clsx';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useDeferredValue, useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { BottomBar } from '../../guided/BottomBar';
import { KEYS } from '../../keys/table';
import { usePedal } from '../../keys/usePedal';
import { FirstStep, LogSketch } from '../../parts/FirstStep';
import { NotWorkedOut } from '../../parts/NotWorkedOut';
import { useNow } from '../../world/now';
import { beginWalk } from '../../world/walk';
import { useRows } from '../../parts/rows';
import { useWorld } from '../../world/world';
import { PutAwayList } from '../../parts/PutAwayList';
import { useAway } from '../../world/away';
import { LabelAddress } from './LabelAddress';
import { Labels } from './Labels';
import { useLabelAddress } from './useLabelAddress';
import { rackColumns, textOf } from './columns';
import { useRack, type RackRow } from './useRack';
import { MINUTE } from '../../../core/base';

const ROW_PX = 44;
/** Nothing is grouped. */
const ALL = '';
type Grouping = typeof ALL | 'owner' | 'place';

/** All instruments with what matters of each: sorted, found, grouped, chosen for a walk or for labels. */
export function RackView() {
  const { basePath, zone, world, bench } = useWorld();
  const [trouble, setTrouble] = useState('');
  const { bringBack } = useAway(setTrouble);
  const { own: address } = useLabelAddress();
  const now = useNow(MINUTE);
  const navigate = useNavigate();
  const { rows, error, known } = useRack();
  const [text, setText] = useState('');
  const [group, setGroup] = useState<Grouping>(ALL);
  const [sorting, setSorting] = useState<SortingState>([{ id: 'next', desc: false }]);
  const [rowSelection, setRowSelection] = useState<RowSelectionState>({});
  const sought = useDeferredValue(text.toLowerCase().trim());
  const data = useMemo(
    () => rows.filter((r) => sought.split(/\s+/).every((word) => textOf(r).includes(word))),
    [rows, sought],
  );
  const columns = useMemo(() => rackColumns(basePath, now, zone), [basePath, now, zone]);
  const groupFirst = useMemo(
    (): SortingState => (group === ALL ? sorting : [{ id: group, desc: false }, ...sorting]),
    [group, sorting],
  );
  const table = useReactTable<RackRow>({
    data,
    columns,
    state: { sorting: groupFirst, rowSelection },
    onSortingChange: setSorting,
    onRowSelectionChange: setRowSelection,
    getRowId: (r) => r.life.record.instrumentId,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const sorted = table.getRowModel().rows;
  const chosen = sorted.filter((r) => r.getIsSelected());
  const forAll = chosen.length > 0 ? chosen : sorted;
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useRows(scroller, sorted.length, ROW_PX);
  const walk = () => {
    const ids = forAll.map((r) => r.id);
    if (ids.length === 0) return;
    beginWalk(world, ids);
    void navigate(`${basePath}/bench/${ids[0]!}`);
  };
  usePedal(KEYS.rack, { walk });
  if (rows.length === 0)
    return (
      <div className="p-6">
        <FirstStep drawing={<LogSketch />} to={`${basePath}/add`} words="Add an instrument">
          No instrument is here yet. Add one, or import a list of many.
        </FirstStep>
        <PutAwayList away={bench.away} onBringBack={bringBack} />
      </div>
    );
  const header = table.getHeaderGroups()[0]!;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <section aria-label="All instruments" className="flex min-h-0 flex-1 flex-col px-4 py-2 print:hidden">
        <h1 className="sr-only">All instruments</h1>
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2 pb-2 text-sm">
          <input
            type="search"
            value={text}
            onChange={(e) => setText(e.target.value)}
            aria-label="Find an instrument"
            placeholder="Name, owner, place, tag"
            className="w-64 rounded-md border border-ink2 bg-sheet px-2 py-1.5"
          />
          <label>
            Grouped by{' '}
            <select
              value={group}
              onChange={(e) => setGroup(e.target.value as Grouping)}
              className="rounded-md border border-ink2 bg-sheet px-2 py-1.5"
            >
              <option value={ALL}>nothing</option>
              <option value="owner">owner</option>
              <option value="place">place</option>
            </select>
          </label>
          <span role="status" className="text-ink2">
            {data.length} of {rows.length} instruments{chosen.length > 0 && `, ${chosen.length} chosen`}
            {known < rows.length && `, ${known} looked at so far`}
          </span>
          <Link to={`${basePath}/inventory`} className="text-deep underline underline-offset-4">
            Import a list
          </Link>
        </div>
        <NotWorkedOut error={error} what="What is next" kept="Readings are saved as usual." />
        <div
          ref={scroller}
          role="table"
          aria-label="Instruments"
          aria-rowcount={sorted.length + 1}
          tabIndex={0}
          className="min-h-60 flex-1 overflow-auto border-y border-line bg-sheet text-sm"
        >
          <div className="min-w-[1080px]">
            <div role="rowgroup" className="sticky top-0 z-10 border-b border-line bg-sheet text-ink2">
              <div role="row" className="flex items-center gap-3 px-2">
                <span role="columnheader" className="w-8">
                  <input
                    type="checkbox"
                    aria-label="Choose all"
                    className="h-4 w-4"
                    checked={table.getIsAllRowsSelected()}
                    onChange={table.getToggleAllRowsSelectedHandler()}
                  />
                </span>
                {header.headers.map((h) => {
                  const by = h.column.getIsSorted();
                  return (
                    <span
                      key={h.id}
                      role="columnheader"
                      aria-sort={by === 'asc' ? 'ascending' : by === 'desc' ? 'descending' : 'none'}
                      className={h.column.columnDef.meta?.className.replace('figure', '')}
                    >
                      <button
                        type="button"
                        onClick={h.column.getToggleSortingHandler()}
                        className="inline-flex min-h-9 items-center gap-1 font-medium"
                      >
                        {flexRender(h.column.columnDef.header, h.getContext())}
                        {by === 'asc' && <ArrowUp size={14} aria-hidden />}
                        {by === 'desc' && <ArrowDown size={14} aria-hidden />}
                      </button>
                    </span>
                  );
                })}
              </div>
            </div>
            <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
              {virtual.getVirtualItems().map(({ index, start }) => {
                const row = sorted[index]!;
                const heads =
                  group !== ALL && valueOf(row.original, group) !== valueOf(sorted[index - 1]?.original, group);
                return (
                  <div
                    key={row.id}
                    role="row"
                    aria-rowindex={index + 2}
                    aria-selected={row.getIsSelected()}
                    className={clsx(
                      'absolute right-0 left-0 flex items-center gap-3 px-2',
                      heads ? 'border-t-2 border-ink2' : 'border-t border-line',
                      row.getIsSelected() && 'bg-water/40',
                    )}
                    style={{ height: ROW_PX, transform: `translateY(${start}px)` }}
                  >
                    <span role="cell" className="w-8">
                      <input
                        type="checkbox"
                        aria-label={`Choose ${row.original.life.record.name}`}
                        className="h-4 w-4"
                        checked={row.getIsSelected()}
                        onChange={row.getToggleSelectedHandler()}
                      />
                    </span>
                    {row.getVisibleCells().map((cell) => (
                      <span key={cell.id} role="cell" className={cell.column.columnDef.meta?.className}>
                        {flexRender(cell.column.columnDef.cell, cell.getContext())}
                      </span>
                    ))}
                  </div>
                );
              })}
            </div>
          </div>
        </div>
        <PutAwayList away={bench.away} onBringBack={bringBack} />
        {trouble && (
          <p role="alert" className="text-sm text-rust">
            {trouble}
          </p>
        )}
        <p className="pt-1 text-xs text-ink2">
          Holds: the chance that the weakest string stays within ±3 cents for 90 min if untouched. Octave: the furthest,
          in cents.
        </p>
        <LabelAddress />
      </section>
      <Labels lives={forAll.map((r) => r.original.life)} address={`${address}${basePath}`} />
      <BottomBar
        actions={[
          {
            words: chosen.length > 0 ? `Walk through these ${chosen.length}` : 'Walk through all',
            hint: 'Enter',
            strong: true,
            on: walk,
          },
          { words: 'Print labels', on: () => window.print() },
        ]}
      />
    </div>
  );
}

const valueOf = (row: RackRow | undefined, group: Exclude<Grouping, typeof ALL>) => row?.life.about?.[group] ?? '';
