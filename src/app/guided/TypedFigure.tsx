import { useState } from 'react';
import { TYPED_HELP, TYPED_LABEL, type GuidedStep } from '../../core/guided';
import { FigureSheet } from '../parts/FigureSheet';

interface Props {
  open: boolean;
  /** What is asked for now. */
  step: GuidedStep;
  onClose: () => void;
  /** @param sure it was asked about, and is so @returns what is wrong with it, or is to be said again */
  onKeep: (text: string, sure: boolean) => string | undefined;
}

/** A figure from another device; what is asked about is kept when it is said again. */
export function TypedFigure({ open, step: { step, named }, onClose, onKeep }: Props) {
  /** The figure that was asked about. */
  const [asked, setAsked] = useState('');
  return (
    <FigureSheet
      open={open}
      title={`A figure for ${named.name}, as ${step.purpose}`}
      label={TYPED_LABEL}
      help={TYPED_HELP}
      onClose={onClose}
      onKeep={(text) => {
        const message = onKeep(text, asked === text);
        setAsked(message === undefined ? '' : text);
        return message;
      }}
    />
  );
}
