import clsx from 'clsx';
import type { ReactNode } from 'react';
import { signed } from '../parts/format';
import { WORK_ID } from '../parts/focus';
import { NoteName } from '../parts/NoteName';
import { Waterline } from '../parts/Waterline';
import { useMoment, type Trace } from './trace';

interface Props {
  heading: string;
  /** The string or place in hand; undefined where none is. */
  note?: string | undefined;
  /** What is heard; undefined where nothing is to be heard now. */
  trace?: Trace | undefined;
  /** What to do, where it is not the guide that says so. */
  instruction?: string | undefined;
  /** The last known offset, shown while nothing sounds, and how old it is. */
  known?: { cents: number | null; age: string } | undefined;
  /** How far the line that it is brought to lies from where it belongs, cents: what is heard counts from the line, what is shown does not. */
  lineCents?: number | undefined;
  toleranceCents: number;
  message: string;
  /** Between the instruction and the waterline. */
  hint?: ReactNode;
  children?: ReactNode;
}

/** The frame of a view with that column: both stand beside one another, on a small screen the column first. */
export const WITH_COLUMN =
  'grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_312px] max-lg:grid-cols-[minmax(0,1fr)_300px] max-md:grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto print:block';

/** The one column of every view that listens: the string in hand in figures for 1.5 m, one thing to do, the waterline, the rest small. */
export function WorkColumn(p: Props) {
  const { trace, note, lineCents = 0 } = p;
  return (
    <aside
      id={WORK_ID}
      tabIndex={-1}
      aria-label="What to do now"
      className="flex flex-col gap-2 overflow-y-auto [&>*]:shrink-0 border-l border-line bg-sheet p-4 print:hidden max-md:order-first max-md:border-b max-md:border-l-0"
    >
      <h2 className="text-sm font-semibold text-ink2">{p.heading}</h2>
      {note !== undefined && (
        <div className="flex items-center justify-between">
          <NoteName note={note} className="text-[64px] font-bold leading-none" />
          <span className="text-right">
            {trace ? (
              <LiveFigure trace={trace} known={p.known?.cents ?? null} line={lineCents} tolerance={p.toleranceCents} />
            ) : (
              <Figure cents={p.known?.cents ?? null} faint line={lineCents} tolerance={p.toleranceCents} />
            )}
          </span>
        </div>
      )}
      {p.known?.age && <Age trace={trace} age={p.known.age} />}
      {p.instruction === undefined && trace ? (
        <LiveInstruction trace={trace} />
      ) : (
        <Instruction>{p.instruction}</Instruction>
      )}
      {p.hint}
      {trace && note !== undefined && (
        <LiveWaterline trace={trace} line={lineCents} tolerance={p.toleranceCents} note={note} />
      )}
      <p role="status" data-testid="message" className="min-h-10 text-sm leading-snug">
        {p.message}
      </p>
      {p.children}
    </aside>
  );
}

function Instruction({ children }: { children: ReactNode }) {
  return (
    <p role="status" data-testid="instruction" className="min-h-8 text-2xl font-semibold leading-tight">
      {children}
    </p>
  );
}

const LiveInstruction = ({ trace }: { trace: Trace }) => (
  <Instruction>{useMoment(trace, (m) => m.sentence)}</Instruction>
);

/** Not worth a line while something sounds. */
function Age({ trace, age }: { trace: Trace | undefined; age: string }) {
  return (
    <p data-testid="age" className="text-right text-sm text-ink2">
      {trace ? <Silent trace={trace}>{age}</Silent> : age}
    </p>
  );
}
const Silent = ({ trace, children }: { trace: Trace; children: ReactNode }) =>
  useMoment(trace, (m) => m.figure === null && m.faded === null) ? children : null;

/** Cents from where the string belongs; its colour is the side of the line that it is brought to. */
function Figure(p: { cents: number | null; faint: boolean; line: number; tolerance: number }) {
  const { cents, faint, line, tolerance } = p;
  const off = (cents ?? line) - line;
  return (
    <span
      data-testid="live-cents"
      className={clsx(
        'figure block text-[44px] font-bold leading-none',
        faint && 'opacity-80',
        cents === null ? 'text-ink2' : off < -tolerance ? 'text-deep' : off > tolerance ? 'text-sand' : 'text-ink',
      )}
    >
      {cents === null ? '–' : signed(cents, Math.abs(cents) < 100 ? 1 : 0)}
    </span>
  );
}

type Lined = { trace: Trace; line: number; tolerance: number };
function LiveFigure({ trace, known, line, tolerance }: Lined & { known: number | null }) {
  const live = useMoment(trace, (m) => m.figure?.cents ?? null);
  const faded = useMoment(trace, (m) => m.faded?.cents ?? null);
  const heard = live ?? faded;
  return (
    <Figure cents={heard === null ? known : heard + line} faint={live === null} line={line} tolerance={tolerance} />
  );
}

function LiveWaterline({ trace, line, tolerance, note }: Lined & { note: string }) {
  const trail = useMoment(trace, (m) => m.trail);
  const faded = useMoment(trace, (m) => m.faded?.cents ?? null);
  return <Waterline trail={trail} faded={faded} lineCents={line} toleranceCents={tolerance} note={note} />;
}
