import { useState } from 'react';
import { HOME_CENTS, type GuidedStep } from '../../core/guided';
import { MOST_OFF_CENTS } from '../../core/limits';
import { cents as centsOf, nearestNote, ratioOfCents } from '../../core/music';
import { FigureSheet } from '../parts/FigureSheet';
import { useWorld } from '../world/world';

interface Props {
  open: boolean;
  /** What is asked for now. */
  step: GuidedStep;
  onClose: () => void;
  /** @param frequencyHz what was typed */
  onKeep: (frequencyHz: number) => void;
}

const OCTAVE_CENTS = 1200;

/** Reads a figure typed in cents (−6.3) or hertz (328.4 Hz). */
function readFigure(text: string, targetHz: number): { cents: number; mayBeHz: boolean } | undefined {
  const m = /^\s*([+\-−]?\d+(?:[.,]\d+)?)\s*(hz|¢|c|cents?)?\s*$/i.exec(text);
  if (!m) return undefined;
  const value = Number(m[1]!.replace('−', '-').replace(',', '.'));
  const cents = m[2]?.toLowerCase() === 'hz' ? (value > 0 ? centsOf(value, targetHz) : NaN) : value;
  const mayBeHz = m[2] === undefined && value > 0 && Math.abs(centsOf(value, targetHz)) < OCTAVE_CENTS;
  return Math.abs(cents) <= MOST_OFF_CENTS ? { cents, mayBeHz } : undefined;
}

/** A figure from another device; one that no longer is this string by its last figure is asked about before it is kept. */
export function TypedFigure({ open, step: { step, named, ownHz = named.targetHz }, onClose, onKeep }: Props) {
  const { a4Hz } = useWorld();
  /** The figure that was asked about. */
  const [asked, setAsked] = useState('');
  const { name, lastHz } = named;
  return (
    <FigureSheet
      open={open}
      title={`A figure for ${name}, as ${step.purpose}`}
      label="Cents from the target, or Hz"
      help="It is saved as typed, with ±1 cent. A figure alone is cents. For a frequency write Hz after it."
      onClose={onClose}
      onKeep={(text) => {
        const read = readFigure(text, ownHz);
        if (read === undefined)
          return 'Write cents from the target, for example −6.3, or a frequency, for example 328.4 Hz, within an octave.';
        const hz = ownHz * ratioOfCents(read.cents);
        const off = centsOf(hz, lastHz ?? ownHz);
        if (Math.abs(off) > HOME_CENTS && asked !== text) {
          setAsked(text);
          const where = `${Math.abs(off).toFixed(0)} cents ${off < 0 ? 'below' : 'above'} ${lastHz === undefined ? name : `where ${name} was read last`}`;
          const unit = read.mayBeHz ? ' If it is a frequency, write Hz after it.' : '';
          return `That is ${where}, near ${nearestNote(hz, a4Hz).name}.${unit} Save it again if it is right.`;
        }
        setAsked('');
        onKeep(hz);
        return undefined;
      }}
    />
  );
}
