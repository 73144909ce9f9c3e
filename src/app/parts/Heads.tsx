import clsx from 'clsx';

/** A column's head: its words, whether its figures stand to the right, and whether a small screen goes without it. */
export type Head = readonly [words: string, as?: 'figures' | 'wide'];

/** The heads of a small table. */
export const Heads = ({ of }: { of: readonly Head[] }) => (
  <thead className="border-b border-line text-xs text-ink2">
    <tr>
      {of.map(([words, as]) => (
        <th
          key={words}
          scope="col"
          className={clsx(
            'pr-6 font-normal',
            as === 'figures' ? 'text-right' : 'text-left',
            as === 'wide' && 'max-md:hidden',
          )}
        >
          {words}
        </th>
      ))}
    </tr>
  </thead>
);
