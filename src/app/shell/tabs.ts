import clsx from 'clsx';

/** A job or place: large, underlined where one is. */
export const tabClass = (active: boolean): string =>
  clsx(
    'border-b-2 px-2.5 py-1.5 text-[15px] whitespace-nowrap max-sm:px-1.5 max-sm:py-2.5 max-sm:text-sm',
    active ? 'border-ink font-semibold' : 'border-transparent text-ink2',
  );
/** One view of a job or place. */
export const viewClass = (active: boolean): string =>
  clsx(
    'rounded-md px-2.5 py-1 text-sm whitespace-nowrap max-sm:py-2.5',
    active ? 'bg-sheet font-semibold shadow-[inset_0_0_0_1px_var(--line)]' : 'text-ink2',
  );
