import clsx from 'clsx';
import type { ReactNode } from 'react';
import { clockTime } from '../parts/format';
import { useNow } from '../world/now';
import { useWorld } from '../world/world';

/** That this is the demonstration, its clock, and the ways back and out; nothing in the user's own world. */
export function DemoStrip({ className, children }: { className: string; children?: ReactNode }) {
  const { demo, zone } = useWorld();
  const now = useNow(10000);
  if (!demo) return null;
  return (
    <p
      className={clsx(
        'flex h-6 items-center gap-4 bg-water px-5 text-xs whitespace-nowrap text-ink print:hidden max-sm:h-11 max-sm:px-2',
        className,
      )}
    >
      <span>
        Demonstration{children} at <span className="figure">{clockTime(now, zone)}</span>
      </span>
      <button type="button" className="underline underline-offset-4" onClick={() => void demo.reset()}>
        Start it over
      </button>
      <a href="/bench" className="underline underline-offset-4">
        Leave it
      </a>
    </p>
  );
}
