import { useRef } from 'react';
import type { TunerState } from '../../../core/practice';

/** Degrees of the button for a pixel of the wheel or of a drag. */
const BY_WHEEL = 0.08;
const BY_DRAG = 0.35;
/** The drawing turns on while the button is turned: so many degrees of it for a cent. */
const DRAWN = 1.5;

/** A tuner as the hand sees it: a peg from its end with its two positions, a pin with a key, a button, a screw; dragged or turned by the wheel. */
export function TunerDrawing({
  tuner,
  cents,
  pushed,
  onTurn,
}: {
  tuner: TunerState;
  cents: number;
  pushed: boolean;
  onTurn: (degrees: number) => void;
}) {
  const from = useRef<number | undefined>(undefined);
  const peg = tuner.kind === 'peg';
  return (
    <svg
      viewBox="0 0 160 160"
      role="img"
      aria-label={peg ? `Peg, ${pushed ? 'pushed in' : 'not pushed in'}` : 'Tuner'}
      className="h-44 w-44 cursor-ns-resize touch-none select-none"
      onWheel={(e) => onTurn(-e.deltaY * BY_WHEEL)}
      onPointerDown={(e) => {
        from.current = e.clientY;
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => {
        if (from.current === undefined) return;
        onTurn((from.current - e.clientY) * BY_DRAG);
        from.current = e.clientY;
      }}
      onPointerUp={() => (from.current = undefined)}
    >
      <circle cx={80} cy={80} r={pushed ? 44 : 52} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={3} />
      {peg && (
        <circle
          cx={80}
          cy={80}
          r={pushed ? 60 : 72}
          fill="none"
          stroke="var(--ink2)"
          strokeDasharray={pushed ? undefined : '5 5'}
        />
      )}
      <g transform={`rotate(${(DRAWN * cents) % 360} 80 80)`}>
        <rect
          x={74}
          y={tuner.kind === 'pin' ? 8 : 22}
          width={12}
          height={tuner.kind === 'pin' ? 144 : 116}
          rx={6}
          fill="var(--deep)"
        />
        <circle cx={80} cy={34} r={5} fill="var(--sheet)" />
      </g>
      {tuner.kind === 'fine' && (
        <g>
          <rect x={140} y={20} width={10} height={120} fill="var(--water)" />
          <rect x={138} y={136 - 112 * tuner.travel} width={14} height={6} fill="var(--rust)" />
        </g>
      )}
    </svg>
  );
}
