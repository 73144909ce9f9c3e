import type { ReactNode } from 'react';
import { Link } from 'react-router';

/** What an empty view says: what it will show, a small drawing of it, and the first step. */
export function FirstStep({
  drawing,
  children,
  to,
  words,
}: {
  drawing: ReactNode;
  children: ReactNode;
  /** Where the first step is taken; undefined where a button of the view's own follows. */
  to?: string;
  words?: string;
}) {
  return (
    <div className="flex max-w-2xl items-center gap-6 py-3 max-sm:flex-col max-sm:items-start">
      <svg viewBox="0 0 160 90" className="w-40 shrink-0" aria-hidden="true" fill="none" strokeWidth={2}>
        <rect width={160} height={45} fill="var(--land)" opacity={0.7} />
        <rect y={45} width={160} height={45} fill="var(--water)" opacity={0.8} />
        <path d="M0 45H160" stroke="var(--ink)" />
        {drawing}
      </svg>
      <div>
        <p>{children}</p>
        {to !== undefined && (
          <Link
            to={to}
            className="mt-3 inline-block rounded-lg border border-deep bg-deep px-3 py-1.5 text-sm font-medium text-sheet"
          >
            {words}
          </Link>
        )}
      </div>
    </div>
  );
}

/** Two falls, brought up between, and what comes. */
export const FallSketch = () => (
  <>
    <path d="M12 45Q24 68 52 72V45Q66 60 96 62V45Q112 53 126 54" stroke="var(--deep)" />
    <path d="M126 54Q142 57 156 58" stroke="var(--ink2)" strokeDasharray="4 4" />
  </>
);
/** The nut, half the string, its octave. */
export const OctaveSketch = () => (
  <>
    <path d="M14 26V64M146 26V64" stroke="var(--ink)" strokeWidth={4} />
    <path d="M14 45Q47 20 80 45Q113 70 146 45" stroke="var(--deep)" />
    <path d="M146 74h-14m5 -5l-5 5l5 5" stroke="var(--rust)" />
  </>
);
/** Visits on a line, and the curtain. */
export const PlanSketch = () => (
  <>
    <path d="M118 8V82" stroke="var(--rust)" strokeDasharray="5 4" />
    {[18, 52, 92].map((x) => (
      <circle key={x} cx={x} cy={45} r={6} fill="var(--sheet)" stroke="var(--ink)" />
    ))}
  </>
);
/** One string that falls, one that falls less. */
export const PairSketch = () => (
  <>
    <path d="M10 45Q40 74 150 80" stroke="var(--deep)" />
    <path d="M10 45Q40 56 150 60" stroke="var(--ink)" strokeDasharray="6 4" />
  </>
);
/** Records under one another. */
export const LogSketch = () => (
  <path d="M20 20H120M20 33H90M20 58H132M20 71H104" stroke="var(--ink)" strokeLinecap="round" />
);
