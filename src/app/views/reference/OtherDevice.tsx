import { useState } from 'react';
import { ratioOfCents } from '../../../core/music';

/** A device that somebody set to another standard: what it shows for the same tone tells which. */
export function OtherDevice({ frequencyHz }: { frequencyHz: number }) {
  const [text, setText] = useState('');
  const shown = Number(text.replace(',', '.').replace('−', '-'));
  const theirs = frequencyHz / ratioOfCents(shown);
  return (
    <p className="pb-2 text-sm">
      <label>
        Another device shows it at{' '}
        <input
          inputMode="decimal"
          value={text}
          onChange={(e) => setText(e.target.value)}
          className="figure w-20 rounded-md border border-ink2 bg-sheet px-2 py-1"
        />{' '}
        cents
      </label>
      {text.trim() !== '' && Number.isFinite(shown) && Math.abs(shown) <= 100 && (
        <b data-testid="other-device">: it is set to {theirs.toFixed(1)} Hz.</b>
      )}
    </p>
  );
}
