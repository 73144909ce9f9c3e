import { useState } from 'react';
import { Button } from '../../parts/Button';

/** The gap is measured so far behind the knife edge, mm (house estimate). */
const BEHIND_MM = 40;

/** Level, from a gap measured at the bridge's back: tuned strings hide a claw that is off, only the tilt shows it. */
export function Level({ onLevel }: { onLevel: (degrees: number) => void }) {
  const [text, setText] = useState('');
  const mm = Number(text.replace(',', '.').replace('−', '-'));
  const good = text.trim() !== '' && Math.abs(mm) <= 15;
  return (
    <form
      className="flex flex-wrap items-center gap-2 py-2 text-sm"
      onSubmit={(e) => {
        e.preventDefault();
        if (!good) return;
        onLevel((Math.atan(mm / BEHIND_MM) * 180) / Math.PI);
        setText('');
      }}
    >
      <label>
        Its back stands up by{' '}
        <input
          inputMode="decimal"
          value={text}
          onChange={(e) => setText(e.target.value)}
          className="figure w-20 rounded-md border border-ink2 bg-sheet px-2 py-1"
        />{' '}
        mm from level
      </label>
      <Button type="submit" disabled={!good}>
        Reckon with it
      </Button>
      <span className="w-full text-xs text-ink2">
        Tuned strings hide a claw that is off: only the tilt shows it. Down is negative; measured {BEHIND_MM} mm behind
        the knife edge.
      </span>
    </form>
  );
}
