import { useState } from 'react';
import { MOST_OFF_CENTS } from '../../../core/limits';
import { cents as centsOf, nearestNote, ratioOfCents } from '../../../core/music';
import { Button } from '../../parts/Button';
import { Modal } from '../../parts/Modal';
import { useWorld } from '../../world/world';

interface Props {
  open: boolean;
  note: string;
  targetHz: number;
  /** Where it was read last, cents; null where it was not. */
  lastCents: number | null;
  purpose: 'found' | 'left';
  onClose: () => void;
  onKeep: (cents: number) => void;
}

/** Reads a figure typed in cents (−6.3) or hertz (328.4 Hz). */
function readFigure(text: string, targetHz: number): number | undefined {
  const m = /^\s*([+\-−]?\d+(?:[.,]\d+)?)\s*(hz|¢|c|cents?)?\s*$/i.exec(text);
  if (!m) return undefined;
  const value = Number(m[1]!.replace('−', '-').replace(',', '.'));
  const cents = m[2]?.toLowerCase() === 'hz' ? (value > 0 ? centsOf(value, targetHz) : NaN) : value;
  return Math.abs(cents) <= MOST_OFF_CENTS ? cents : undefined;
}

/** A figure further than this from the last one is asked about before it is kept, cents (the user's rule). */
const FAR_CENTS = 100;

export function TypedFigure({ open, note, targetHz, lastCents, purpose, onClose, onKeep }: Props) {
  const { a4Hz } = useWorld();
  const [text, setText] = useState('');
  /** The figure that was asked about. */
  const [asked, setAsked] = useState('');
  const [fault, setFault] = useState('');
  return (
    <Modal open={open} title={`A figure for ${note}, as ${purpose}`} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          const cents = readFigure(text, targetHz);
          if (cents === undefined) {
            setFault(
              'Write cents from the target, for example −6.3, or a frequency, for example 328.4 Hz, within an octave.',
            );
            return;
          }
          const off = cents - (lastCents ?? 0);
          if (Math.abs(off) > FAR_CENTS && asked !== text) {
            setAsked(text);
            const where = `${Math.abs(off).toFixed(0)} cents ${off < 0 ? 'below' : 'above'} ${lastCents === null ? note : `where ${note} was read last`}`;
            setFault(
              `That is ${where}, near ${nearestNote(targetHz * ratioOfCents(cents), a4Hz).name}. Keep it once more if it is so.`,
            );
            return;
          }
          setText('');
          setFault('');
          setAsked('');
          onKeep(cents);
        }}
      >
        <label className="flex flex-col gap-1 text-sm">
          Cents from the target, or Hz
          <input
            autoFocus
            className="figure rounded-md border border-ink2 bg-paper px-3 py-2 text-lg"
            value={text}
            onChange={(e) => setText(e.target.value)}
            aria-invalid={fault !== ''}
            aria-describedby="typed-fault"
          />
        </label>
        <p id="typed-fault" role="alert" className="min-h-5 text-sm text-rust">
          {fault}
        </p>
        <p className="text-sm text-ink2">
          It is kept as typed, with ±1 cent. A bare figure is taken for cents; write Hz behind a frequency.
        </p>
        <div className="flex gap-2">
          <Button strong type="submit">
            Keep it
          </Button>
          <Button onClick={onClose}>Leave it</Button>
        </div>
      </form>
    </Modal>
  );
}
