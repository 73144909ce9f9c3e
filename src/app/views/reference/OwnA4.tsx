import { A4_RANGE } from '../../../core/reference';
import { useState, type FormEvent } from 'react';
import { A4_MAX_HZ, A4_MIN_HZ } from '../../../core/music';
import { Button } from '../../parts/Button';
import { FigureField } from '../../parts/FigureField';
import { figureIn } from '../../parts/format';

/** One's own A4, typed. @param onUse takes it, to a tenth of a hertz @param say tells what is wrong with it */
export function OwnA4({ onUse, say }: { onUse: (a4Hz: number) => void; say: (words: string) => void }) {
  const [text, setText] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const hz = Math.round(10 * figureIn(text)) / 10;
    if (!(hz >= A4_MIN_HZ && hz <= A4_MAX_HZ)) return say(`Give an A4 ${A4_RANGE}.`);
    setText('');
    onUse(hz);
  };
  return (
    <form onSubmit={submit} className="flex items-baseline gap-2 pb-4 text-sm">
      <FigureField words="Your own A4" unit="Hz" value={text} onChange={setText} placeholder="440.5" />
      <Button type="submit">Use this A4</Button>
    </form>
  );
}
