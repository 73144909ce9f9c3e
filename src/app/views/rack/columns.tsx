import type { Zone } from '../../../core/base';
import { createColumnHelper, type RowData } from '@tanstack/react-table';
import { Link } from 'react-router';
import { sinceTime, span } from '../../parts/format';
import { pathToNext } from '../../parts/next';
import type { RackRow } from './useRack';

declare module '@tanstack/react-table' {
  // The library's own way to say what a table and its columns know beside their cells.
  // eslint-disable-next-line @typescript-eslint/no-unused-vars
  interface ColumnMeta<TData extends RowData, TValue> {
    className: string;
  }
}

const column = createColumnHelper<RackRow>();
const link = 'text-deep underline decoration-1 underline-offset-2';
const NEVER = Infinity;

/** When something is due: now where no time is said; what is not known stands last. */
const dueOf = ({ line }: RackRow, nowMs: number): number => {
  if (!line) return NEVER;
  const { atMs, idle } = line.next;
  return idle ? NEVER : (atMs ?? nowMs);
};

/** The columns of the rack: each is sorted by what it says. */
export const rackColumns = (basePath: string, nowMs: number, zone: Zone) => [
  column.accessor((r) => r.life.record.name, {
    id: 'name',
    header: 'Instrument',
    meta: { className: 'min-w-40 flex-1 font-semibold' },
    cell: ({ row, getValue }) => (
      <Link to={`${basePath}/life/${row.original.life.record.instrumentId}`} className={link}>
        {getValue()}
      </Link>
    ),
  }),
  column.accessor((r) => dueOf(r, nowMs), {
    id: 'next',
    header: 'Next',
    meta: { className: 'min-w-44 flex-[1.4]' },
    cell: ({ row }) => {
      const { life, line } = row.original;
      if (!line) return <span className="text-ink2">…</span>;
      return (
        <Link to={pathToNext(basePath, life.record.instrumentId, line.next)} className={link}>
          {line.next.words}
        </Link>
      );
    },
  }),
  column.accessor((r) => r.line?.chance ?? undefined, {
    id: 'holds',
    header: 'Holds',
    sortUndefined: 'last',
    meta: { className: 'w-16 figure text-right' },
    cell: ({ getValue }) => {
      const chance = getValue();
      return chance === undefined ? '–' : `${(100 * chance).toFixed(0)} %`;
    },
  }),
  column.accessor((r) => r.line?.strungMs ?? undefined, {
    id: 'age',
    header: 'Strings',
    sortUndefined: 'last',
    meta: { className: 'w-20 text-right' },
    cell: ({ getValue }) => {
      const ms = getValue();
      return ms === undefined ? '–' : span(nowMs - ms);
    },
  }),
  column.accessor((r) => (r.line?.octave ? Math.abs(r.line.octave.cents) : undefined), {
    id: 'octave',
    header: 'Octave',
    sortUndefined: 'last',
    meta: { className: 'w-20 figure text-right' },
    cell: ({ row, getValue }) => {
      const cents = getValue();
      return cents === undefined ? '–' : `${cents.toFixed(1)}${row.original.line?.octave?.grows ? ', grows' : ''}`;
    },
  }),
  column.accessor((r) => r.line?.findings, {
    id: 'findings',
    header: 'Faults',
    sortUndefined: 'last',
    meta: { className: 'w-14 figure text-right' },
    cell: ({ getValue }) => getValue() || '–',
  }),
  column.accessor((r) => r.line?.seenMs ?? undefined, {
    id: 'seen',
    header: 'Last read',
    sortUndefined: 'last',
    meta: { className: 'w-24 text-right' },
    cell: ({ row, getValue }) => {
      const ms = getValue();
      if (!row.original.line) return '…';
      return ms === undefined ? 'never' : sinceTime(ms, nowMs, zone);
    },
  }),
  ...(['owner', 'place'] as const).map((field) =>
    column.accessor((r) => r.life.about?.[field] ?? '', {
      id: field,
      header: field === 'owner' ? 'Owner' : 'Place',
      meta: { className: 'w-28 truncate' },
    }),
  ),
  column.accessor((r) => (r.life.about?.tags ?? []).join(', '), {
    id: 'tags',
    header: 'Tags',
    meta: { className: 'w-28 truncate' },
  }),
];

/** What a row is found by. */
export const textOf = ({ life, line }: RackRow): string =>
  [
    life.record.name,
    life.about?.owner,
    life.about?.place,
    life.about?.code,
    ...(life.about?.tags ?? []),
    line?.next.words,
  ]
    .filter(Boolean)
    .join(' ')
    .toLowerCase();
