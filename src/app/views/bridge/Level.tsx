import { BEHIND_MM, LEVEL_HOW } from '../../../core/bridge';
import { useState } from 'react';
import { Button } from '../../parts/Button';
import { FigureField } from '../../parts/FigureField';
import { figureIn } from '../../parts/format';

/** Level, from a gap measured at the bridge's back: tuned strings hide a claw that is off, only the tilt shows it. */
export function Level({ onLevel }: { onLevel: (degrees: number) => void }) {
  const [text, setText] = useState('');
  const mm = figureIn(text);
  const good = Math.abs(mm) <= 15;
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
      <FigureField words="Its back is up by" unit="mm from level" value={text} onChange={setText} />
      <Button type="submit" disabled={!good}>
        Use it
      </Button>
      <span className="w-full text-xs text-ink2">{LEVEL_HOW}</span>
    </form>
  );
}
