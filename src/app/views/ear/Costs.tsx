import { EAR_SD, type EarRound, expectedWords, errorsWords } from '../../../core/by-ear';

const TALL = 70;
const SLOT = 64;
/** Cents to the top of the drawing. */
const FULL = 6;

/** What a school costs: how far every string is off as a rule, for this ear. */
export function Costs({
  notes,
  round,
  earSd,
  by,
}: {
  notes: readonly string[];
  round: EarRound;
  earSd: number;
  /** What shows how good this ear is; undefined where nothing does yet. */
  by: 'rounds' | 'practice' | undefined;
}) {
  const of = (i: number) => (round.chainSd[String(i + 1)]! * earSd) / EAR_SD;
  return (
    <figure className="py-3">
      <svg
        viewBox={`0 0 ${notes.length * SLOT} ${TALL + 24}`}
        className="h-24 max-w-full"
        role="img"
        aria-label={errorsWords(
          notes,
          notes.map((_, i) => of(i)),
        )}
      >
        <path d={`M0 ${TALL}H${notes.length * SLOT}`} stroke="var(--line)" />
        {notes.map((note, i) => {
          const tall = Math.max(2, Math.min(1, of(i) / FULL) * (TALL - 16));
          return (
            <g key={i} transform={`translate(${i * SLOT} 0)`}>
              <rect x={12} width={SLOT - 24} y={TALL - tall} height={tall} fill="var(--deep)" opacity={0.75} />
              <text
                x={SLOT / 2}
                y={TALL - tall - 4}
                textAnchor="middle"
                className="figure text-[12px]"
                fill="var(--ink)"
              >
                {of(i).toFixed(1)}
              </text>
              <text x={SLOT / 2} y={TALL + 18} textAnchor="middle" className="text-[13px]" fill="var(--ink)">
                {note}
              </text>
            </g>
          );
        })}
      </svg>
      <figcaption className="text-xs text-ink2">{expectedWords(earSd, by)}</figcaption>
    </figure>
  );
}
