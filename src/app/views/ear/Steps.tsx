import { type EarStep, beatWords, intervalWords, soundWords, type Expected, fretsWords } from '../../../core/by-ear';
import { signed } from '../../parts/format';

const BEATS = 'figure grid grid-cols-[repeat(6,2.5rem)] gap-x-1 text-right';

/** What to sound against what, how it beats, and what a fret that is off adds to it. */
export function Steps({
  steps,
  notes,
  inHand,
  expected,
}: {
  steps: readonly EarStep[];
  notes: readonly string[];
  /** The string that is tuned now, from 0. */
  inHand: number | undefined;
  expected: readonly Expected[];
}) {
  return (
    <>
      <div className="flex items-end gap-x-4 pb-1 pl-3 text-xs text-ink2">
        <span className="max-w-88">
          From below the beats slow down, stop where the interval is pure, and get faster above it.
        </span>
        <span className="ml-auto">
          <span className="block text-right">Beats a second at so many cents off</span>
          <span className={BEATS}>
            {steps[0]?.beats.map((b) => (
              <span key={b.cents}>{signed(b.cents, 0)}</span>
            ))}
          </span>
        </span>
      </div>
      <ol aria-label="Steps" className="border-t border-line">
        {steps.map((s, i) => {
          const { fretsCents, instrument } = expected[i]!;
          return (
            <li
              key={i}
              aria-current={s.tune - 1 === inHand ? 'step' : undefined}
              className="flex items-baseline gap-x-4 border-b border-l-4 border-line border-l-transparent py-1.5 pl-2 aria-[current=step]:border-l-deep aria-[current=step]:bg-sheet max-lg:flex-wrap"
            >
              <span className="w-14 shrink-0 text-lg font-bold">{notes[s.tune - 1]}</span>
              <span className="w-72 shrink-0 text-sm max-sm:w-full">
                {soundWords(s.sound, notes)} against {soundWords(s.against, notes)}: {intervalWords(s.interval)}
                <span className="block text-xs text-ink2">
                  {beatWords(s)}
                  {Math.abs(fretsCents) > 0.3 && ` ${fretsWords(fretsCents)}`}
                  {instrument !== undefined &&
                    ' Tuning cannot make these agree: it is the saddle or a fret. Check the intonation.'}
                </span>
              </span>
              <span className={`${BEATS} ml-auto text-sm`}>
                {s.beats.map((b) => (
                  <span key={b.cents}>{b.hz.toFixed(1)}</span>
                ))}
              </span>
            </li>
          );
        })}
      </ol>
    </>
  );
}
