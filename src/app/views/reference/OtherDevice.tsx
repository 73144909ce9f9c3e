import { otherWords } from '../../../core/reference';
import { useState } from 'react';
import { FigureField } from '../../parts/FigureField';
import { figureIn } from '../../parts/format';
import { ratioOfCents } from '../../../core/music';

/** A device that somebody set to another standard: what it shows for the same tone tells which. */
export function OtherDevice({ frequencyHz }: { frequencyHz: number }) {
  const [text, setText] = useState('');
  const shown = figureIn(text);
  const theirs = frequencyHz / ratioOfCents(shown);
  return (
    <p className="pb-2 text-sm">
      <FigureField words="Another device shows it at" unit="cents" value={text} onChange={setText} />
      {Math.abs(shown) <= 100 && <b data-testid="other-device">{otherWords(theirs)}</b>}
    </p>
  );
}
