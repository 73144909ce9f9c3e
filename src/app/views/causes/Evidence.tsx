import { REMEDIES, TEST_GUIDES, type Evidence as Item, type Speaks } from '../../../core/causes';
import type { Cause, CauseTest } from '../../../core/codes';
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

/** Two changes from a line, flat to the left. */
export const Changed = ({ first, second }: { first: number; second: number | undefined }) => (
  <svg viewBox={`0 0 ${WIDE} 30`} className="h-8 w-56 shrink-0" aria-hidden="true">
    <rect width={WIDE / 2} height={30} fill="var(--water)" opacity={0.7} />
    <rect x={WIDE / 2} width={WIDE / 2} height={30} fill="var(--land)" opacity={0.7} />
    <path d={`M${WIDE / 2} 0V30`} stroke="var(--ink)" />
    <Bar at={first} y={second === undefined ? 15 : 10} />
    {second !== undefined && <Bar at={second} y={21} faint />}
  </svg>
);

const named = (causes: readonly Cause[]) => causes.map((c) => REMEDIES[c].short).join(', ');
const titleOf = (test: Item['test']) =>
  test === 'since-last' ? 'Since it was tuned' : TEST_GUIDES[test as CauseTest].title;

/** What was read: each as two changes from the line, and what it speaks for and against. */
export function EvidenceList({
  evidence,
  speaks,
}: {
  evidence: readonly Item[];
  speaks: readonly Speaks[] | undefined;
}) {
  return (
    <ol aria-label="What was read" className="border-t border-line">
      {evidence.map((e, i) => {
        const [first, second] = e.test === 'since-last' ? [e.own, undefined] : [e.first, e.second];
        const say = speaks?.[i];
        return (
          <li key={e.test} className="flex items-center gap-x-4 border-b border-line py-1.5 text-sm max-lg:flex-wrap">
            <span className="w-44 shrink-0">{titleOf(e.test)}</span>
            <Changed first={first} second={second} />
            <span className="w-36 shrink-0">
              <span className="figure">
                {signed(first)}
                {second !== undefined && `, then ${signed(second)}`}
              </span>
              {e.others !== undefined && <span className="block text-xs text-ink2">the others {signed(e.others)}</span>}
            </span>
            <span className="text-xs leading-snug">
              {say && say.for.length > 0 && <span className="block">For: {named(say.for)}</span>}
              {say && say.against.length > 0 && <span className="block text-ink2">Against: {named(say.against)}</span>}
              {say && say.for.length + say.against.length === 0 && <span className="text-ink2">Tells little</span>}
            </span>
          </li>
        );
      })}
    </ol>
  );
}
