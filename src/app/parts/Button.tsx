import clsx from 'clsx';
import type { ButtonHTMLAttributes, ReactNode } from 'react';

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** The key that does the same. */
  hint?: string;
  strong?: boolean;
  onBar?: boolean;
  children: ReactNode;
}

/** A button with its key beside its words. */
export function Button({ hint, strong, onBar, className, children, type = 'button', ...rest }: Props) {
  return (
    <button
      type={type}
      aria-keyshortcuts={hint}
      className={clsx(
        'inline-flex items-center gap-2 rounded-lg border px-3 py-1.5 text-sm font-medium disabled:opacity-50 max-sm:min-h-11',
        onBar
          ? strong
            ? 'border-onbar bg-onbar text-bar'
            : 'border-ink2 text-onbar'
          : strong
            ? 'border-deep bg-deep text-sheet'
            : 'border-line bg-sheet text-ink',
        className,
      )}
      {...rest}
    >
      {children}
      {hint && <kbd className="figure rounded border border-current px-1 text-xs max-lg:hidden">{hint}</kbd>}
    </button>
  );
}
