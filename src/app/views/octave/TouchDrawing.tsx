import type { TouchStep } from '../../../core/octave';

/** Where to touch or press: neck and body from above, one finger. */
export function TouchDrawing({ step }: { step: TouchStep }) {
  const place = step.touch === 'open' ? null : 1 - Math.pow(2, -(step.fret ?? 12) / 12);
  const x = (share: number) => 14 + share * 250;
  return (
    <svg
      viewBox="0 0 290 70"
      className="w-full"
      role="img"
      aria-label={
        step.touch === 'open'
          ? 'Open string'
          : step.touch === 'harmonic'
            ? 'Touch over the 12th fret'
            : `Press at fret ${step.fret}`
      }
    >
      <rect x={8} y={20} width={185} height={30} fill="var(--land)" stroke="var(--line)" />
      {Array.from({ length: 15 }, (_, n) => (
        <path
          key={n}
          d={`M${x(1 - Math.pow(2, -(n + 1) / 12))} 20V50`}
          stroke={n === 11 ? 'var(--ink)' : 'var(--line)'}
          strokeWidth={n === 11 ? 2 : 1}
        />
      ))}
      <path d="M14 16V54M264 16V54" stroke="var(--ink)" strokeWidth={3} />
      <path
        d={step.touch === 'fret' ? `M14 33L${x(place!)} 38L264 33` : 'M14 35H264'}
        stroke="var(--ink)"
        strokeWidth={2}
        fill="none"
      />
      {place !== null && (
        <ellipse
          cx={x(place) - (step.touch === 'fret' ? 5 : 0)}
          cy={step.touch === 'fret' ? 28 : 22}
          rx={7}
          ry={12}
          fill={step.touch === 'fret' ? 'var(--deep)' : 'none'}
          stroke="var(--deep)"
          strokeWidth={2}
        />
      )}
      <path d="M222 12v14m-4 -5l4 6l4 -6" stroke="var(--rust)" strokeWidth={2} fill="none" />
    </svg>
  );
}
