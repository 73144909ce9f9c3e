import { TEST_GUIDES } from '../../../core/causes';
import type { SinceLast } from '../../../core/causes';
import type { TestRecord } from '../../../core/records';
import { signed, symlog } from '../../parts/format';

const WIDE = 220;
const FULL = 100;
const x = (cents: number) => WIDE / 2 + symlog(cents, FULL) * (WIDE / 2 - 8);

function Bar({ at, y, faint = false }: { at: number; y: number; faint?: boolean }) {
  return (
    <>
      <path d={`M${WIDE / 2} ${y}H${x(at)}`} stroke="var(--deep)" strokeWidth={4} opacity={faint ? 0.5 : 1} />
      <circle cx={x(at)} cy={y} r={4} fill="var(--deep)" opacity={faint ? 0.5 : 1} />
    </>
  );
}

/** What was read: each test as two changes from the line, flat to the left. */
export function Evidence({ since, tests }: { since: SinceLast | undefined; tests: readonly TestRecord[] }) {
  const rows = [
    ...(since ? [{ key: 'since', title: 'Since it was tuned', first: since.own, second: null as number | null }] : []),
    ...tests.map((t) => ({
      key: t.id,
      title: TEST_GUIDES[t.test].title,
      first: t.firstCents,
      second: t.secondCents,
    })),
  ];
  return (
    <ol aria-label="What was read" className="border-t border-line">
      {rows.map(({ key, title, first, second }) => (
        <li key={key} className="flex items-center gap-4 border-b border-line py-1.5 text-sm max-sm:flex-wrap">
          <span className="w-56">{title}</span>
          <svg viewBox={`0 0 ${WIDE} 30`} className="h-8 w-56 shrink-0" aria-hidden="true">
            <rect width={WIDE / 2} height={30} fill="var(--water)" opacity={0.7} />
            <rect x={WIDE / 2} width={WIDE / 2} height={30} fill="var(--land)" opacity={0.7} />
            <path d={`M${WIDE / 2} 0V30`} stroke="var(--ink)" />
            <Bar at={first} y={second === null ? 15 : 10} />
            {second !== null && <Bar at={second} y={21} faint />}
          </svg>
          <span className="figure">
            {signed(first)}
            {second !== null && `, then ${signed(second)}`} cents
          </span>
        </li>
      ))}
      {since && (
        <li className="py-1 text-xs text-ink2">
          The others went {signed(since.others)} ±{since.othersSd.toFixed(1)} cents since they were tuned.
        </li>
      )}
    </ol>
  );
}
