import { useState } from 'react';
import { MOST_OFF_CENTS } from '../../../core/limits';
import { cents as centsOf, nearestNote, ratioOfCents } from '../../../core/music';
import { HOME_CENTS } from '../../../core/guided';
import { FigureSheet } from '../../parts/FigureSheet';
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

/** A figure from another device; one that no longer is this string by its last figure is asked about before it is kept. */
export function TypedFigure({ open, note, targetHz, lastCents, purpose, onClose, onKeep }: Props) {
  const { a4Hz } = useWorld();
  /** The figure that was asked about. */
  const [asked, setAsked] = useState('');
  return (
    <FigureSheet
      open={open}
      title={`A figure for ${note}, as ${purpose}`}
      label="Cents from the target, or Hz"
      help="It is kept as typed, with ±1 cent. A bare figure is taken for cents; write Hz behind a frequency."
      onClose={onClose}
      onKeep={(text) => {
        const cents = readFigure(text, targetHz);
        if (cents === undefined)
          return 'Write cents from the target, for example −6.3, or a frequency, for example 328.4 Hz, within an octave.';
        const off = cents - (lastCents ?? 0);
        if (Math.abs(off) > HOME_CENTS && asked !== text) {
          setAsked(text);
          const where = `${Math.abs(off).toFixed(0)} cents ${off < 0 ? 'below' : 'above'} ${lastCents === null ? note : `where ${note} was read last`}`;
          return `That is ${where}, near ${nearestNote(targetHz * ratioOfCents(cents), a4Hz).name}. Keep it once more if it is so.`;
        }
        setAsked('');
        onKeep(cents);
        return undefined;
      }}
    />
  );
}
