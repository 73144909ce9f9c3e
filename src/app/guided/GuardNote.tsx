import { OctagonX, TriangleAlert } from 'lucide-react';
import { pitchGuard, strayWords, type StringLoad } from '../../core/strings';
import { useMoment, type Trace } from './trace';

interface Props {
  trace: Trace;
  load: StringLoad | undefined;
  /** As the user calls the string, 'E4'. */
  note: string;
  /** How far the line of the moment lies from where the string belongs, cents. */
  lineCents: number;
  /** It is pulled sharp by hand: how far above its target it sounds is meant. */
  pulled?: boolean;
}

/** What must be called out while a tuner is turned: the pitch guard's sign, not to be overlooked from a metre and a half. */
export function GuardNote({ trace, load, note, lineCents, pulled = false }: Props) {
  const cents = useMoment(trace, (m) => (m.figure ? Math.round(m.figure.cents) : null));
  const turning = useMoment(trace, (m) => m.turning);
  const call = cents === null || !turning ? undefined : pitchGuard(cents + lineCents, load, note, pulled);
  const stray = !turning && cents !== null ? strayWords(cents) : undefined;
  if (stray) return <p className="text-sm text-ink2">{stray}</p>;
  return (
    <div role="alert" data-testid="guard" data-level={call?.level}>
      {call && (
        <p
          className={
            call.level === 'stop'
              ? 'flex gap-3 rounded-lg bg-rust p-3 text-lg font-bold leading-snug text-sheet'
              : 'flex gap-3 rounded-lg border-2 border-rust p-3 text-base font-semibold leading-snug text-rust'
          }
        >
          {call.level === 'stop' ? (
            <OctagonX size={28} className="shrink-0" aria-hidden />
          ) : (
            <TriangleAlert size={24} className="shrink-0" aria-hidden />
          )}
          {call.message}
        </p>
      )}
    </div>
  );
}
