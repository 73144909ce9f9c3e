import { type Zone, MINUTE } from '../../../core/base';
import clsx from 'clsx';
import type { DoneWalk, PlanItem, PlanStep } from '../../../core/plan';
import { dueTime } from '../../parts/format';
import { leadWords } from '../../parts/visits';
import { STEP_WORDS, visitsOf } from './words';
/** The same for every instrument: one line. */
const ALL_ALIKE: ReadonlySet<PlanStep> = new Set(['acclimatise']);

interface Props {
  items: readonly PlanItem[];
  done: readonly DoneWalk[];
  nowMs: number;
  zone: Zone;
  nameOf: (instrumentId: string) => string;
  notesOf: (item: PlanItem, leads: (stringId: string) => string) => string;
}

/** The walks of a plan, a line each, what is left above pitch beside its string. */
export function ToDo({ items, done, nowMs, zone, nameOf, notesOf }: Props) {
  const visits = visitsOf(items);
  return (
    <ol aria-label="What to do" className="pt-3 text-sm print:text-lg">
      {done.map((d) => (
        <li key={`${d.instrumentId}/${d.atMs}`} className="flex gap-3 border-t border-line py-1 text-ink2">
          <span className="figure w-14 shrink-0">{dueTime(d.atMs, d.atMs - MINUTE, zone)}</span>
          <span>
            ✓ Checked {nameOf(d.instrumentId)}: {d.stringIds.length} strings
            {d.broughtUp > 0 && `, ${d.broughtUp} brought up`}
          </span>
        </li>
      ))}
      {visits.map((v, n) => {
        const first = v.items[0]!;
        const whys = new Set(v.items.map((i) => i.why));
        return (
          <li key={first.uid} className={clsx('flex gap-3 border-t border-line py-1.5', n === 0 && 'font-semibold')}>
            <span className={clsx('figure w-14 shrink-0', first.late && 'text-rust')}>
              {dueTime(first.atMs, nowMs, zone)}
            </span>
            <div>
              {STEP_WORDS[v.what]}
              {first.late && <b className="text-rust"> Late.</b>}
              {ALL_ALIKE.has(v.what) && whys.size === 1 ? (
                <div>
                  {v.items.map((i, k) => (
                    <span key={i.uid} data-what={i.what}>
                      {k > 0 && '; '}
                      {nameOf(i.instrumentId)}
                    </span>
                  ))}
                </div>
              ) : (
                v.items.map((i) => (
                  <div key={i.uid} data-what={i.what}>
                    {nameOf(i.instrumentId)}
                    {i.spareId
                      ? `: ${nameOf(i.spareId)} takes over`
                      : `, ${notesOf(i, (id) => leadWords(i.leaveAtCents?.[id]))}`}
                    {i.conflict && <b className="text-rust"> Two things at once: more than there are hands.</b>}
                    {whys.size > 1 && <span className="block font-normal text-ink2">{i.why}</span>}
                  </div>
                ))
              )}
              {whys.size === 1 && <span className="block font-normal text-ink2">{first.why}</span>}
            </div>
            <span className="figure ml-auto shrink-0 font-normal text-ink2">{v.minutes > 0 && `${v.minutes} min`}</span>
          </li>
        );
      })}
    </ol>
  );
}
