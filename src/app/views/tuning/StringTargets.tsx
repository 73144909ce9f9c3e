import clsx from 'clsx';
import { parseNote, stringTargetHz, transpose, type StringTarget, besideWords } from '../../../core/music';
import { NoteName } from '../../parts/NoteName';
import { signed, symlog } from '../../parts/format';

const WIDE = 180;
const FULL = 30;
const field = 'figure w-20 rounded-md border border-ink2 bg-sheet px-1.5 py-0.5';

/** Every string's note, how far beside equal temperament it is to stand, and its frequency; a tone is sounded for the one chosen. */
export function StringTargets({
  targets,
  a4Hz,
  chosen,
  onChoose,
  onNote,
  capo,
  onOffset,
}: {
  targets: Required<StringTarget>[];
  a4Hz: number;
  chosen: number;
  onChoose: (index: number) => void;
  /** The note that the string itself has, without a capo. */
  onNote: (index: number, note: string) => void;
  capo: number;
  onOffset: ((index: number, cents: number) => void) | undefined;
}) {
  const x = (c: number) => WIDE / 2 + symlog(c, FULL) * (WIDE / 2 - 8);
  return (
    <ol aria-label="Strings and their places" className="border-t border-line">
      {targets.map((t, i) => (
        <li
          key={i}
          aria-current={i === chosen ? 'true' : undefined}
          className={clsx('flex items-center gap-3 border-b border-line py-1', i === chosen && 'bg-sheet')}
        >
          <button
            type="button"
            className="w-14 text-left text-2xl font-bold"
            aria-label={`${t.note}: choose it for the tone`}
            onClick={() => onChoose(i)}
          >
            <NoteName note={t.note} />
          </button>
          <input
            key={`${t.note}${capo}`}
            aria-label={`Note of string ${i + 1}`}
            defaultValue={transpose(t.note, -capo)}
            className={field}
            onBlur={(e) => {
              const note = e.target.value.trim();
              if (parseNote(note)) onNote(i, note);
              else e.target.value = transpose(t.note, -capo);
            }}
          />
          <svg
            viewBox={`0 0 ${WIDE} 24`}
            className="h-6 w-44 shrink-0"
            role="img"
            aria-label={besideWords(t.offsetCents)}
          >
            <rect width={WIDE / 2} height={24} fill="var(--water)" opacity={0.7} />
            <rect x={WIDE / 2} width={WIDE / 2} height={24} fill="var(--land)" opacity={0.7} />
            <path d={`M${WIDE / 2} 0V24`} stroke="var(--ink)" strokeWidth={1.5} />
            <path d={`M${x(t.offsetCents)} 3V21`} stroke="var(--deep)" strokeWidth={4} strokeLinecap="round" />
          </svg>
          {onOffset ? (
            <input
              type="number"
              step={0.1}
              min={-50}
              max={50}
              aria-label={`Offset of ${t.note} in cents`}
              value={t.offsetCents}
              className={field}
              onChange={(e) => {
                const cents = e.target.valueAsNumber;
                if (Math.abs(cents) <= 50) onOffset(i, cents);
              }}
            />
          ) : (
            <span className="figure w-14 text-right text-sm">{signed(t.offsetCents)}</span>
          )}
          <span className="figure ml-auto text-sm text-ink2">{stringTargetHz(t, a4Hz)!.toFixed(2)} Hz</span>
        </li>
      ))}
    </ol>
  );
}
