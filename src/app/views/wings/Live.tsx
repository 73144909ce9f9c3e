import clsx from 'clsx';
import { useMoment, type Trace } from '../../guided/trace';
import { signed } from '../../parts/format';
import { NoteName } from '../../parts/NoteName';
import { Waterline } from '../../parts/Waterline';

interface Props {
  trace: Trace;
  note: string;
  /** What it is left at above its target, cents: what is heard counts from there, what is shown does not. */
  lead: number;
  tolerance: number;
}

/** The string in hand, to be read from across a dark stage. */
export function Live({ trace, note, lead, tolerance }: Props) {
  const sentence = useMoment(trace, (m) => m.sentence);
  const live = useMoment(trace, (m) => m.figure?.cents ?? null);
  const faded = useMoment(trace, (m) => m.faded?.cents ?? null);
  const trail = useMoment(trace, (m) => m.trail);
  const fromLine = live ?? faded;
  const cents = fromLine === null ? null : fromLine + lead;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_340px] gap-x-8 max-md:grid-cols-[minmax(0,1fr)]">
      <div className="flex flex-wrap items-baseline gap-x-12">
        <NoteName note={note} className="text-[140px] font-bold leading-none max-sm:text-8xl" />
        <span
          data-testid="live-cents"
          className={clsx(
            'figure text-[110px] font-bold leading-none max-sm:text-6xl',
            live === null && 'opacity-80',
            fromLine !== null && fromLine < -tolerance
              ? 'text-deep'
              : fromLine !== null && fromLine > tolerance && 'text-sand',
          )}
        >
          {cents === null ? '–' : signed(cents, Math.abs(cents) < 100 ? 1 : 0)}
        </span>
        {lead !== 0 && (
          <span data-testid="lead" className="figure text-4xl font-bold text-deep">
            leave it at {signed(lead)}
          </span>
        )}
        <p
          role="status"
          data-testid="instruction"
          className="min-h-14 w-full text-5xl font-semibold leading-tight max-sm:text-3xl"
        >
          {sentence}
        </p>
      </div>
      <div>
        <Waterline trail={trail} faded={faded} lineCents={lead} toleranceCents={tolerance} note={note} />
      </div>
    </div>
  );
}
