import type { FittingStep } from '../../../core/fitting';
import { Button } from '../../parts/Button';

interface Props {
  step: FittingStep;
  /** The string is to be stretched before it is read. */
  waiting: boolean;
  sounding: boolean;
  first: boolean;
  onNext: () => void;
  onWarmed: () => void;
  onBack: () => void;
  onAsk: (what: 'skip' | 'note') => void;
  onLeave: () => void;
}

/** What can be done at a step, each with its key. */
export function FittingBar({ step, waiting, sounding, first, onNext, onWarmed, onBack, onAsk, onLeave }: Props) {
  const next =
    step.kind === 'warm'
      ? 'Leave it cold'
      : waiting
        ? 'Stretched: read it'
        : sounding
          ? 'Take it as it sounds'
          : 'Done';
  return (
    <div className="on-bar flex flex-wrap items-center gap-2 bg-bar px-4 py-2.5 text-onbar">
      <Button onBar strong hint="Enter" onClick={onNext}>
        {next}
      </Button>
      {step.kind === 'warm' && (
        <Button onBar hint="W" onClick={onWarmed}>
          Warmed it
        </Button>
      )}
      <Button onBar hint="Page Up" disabled={first} onClick={onBack}>
        Back
      </Button>
      <Button onBar hint="S" onClick={() => onAsk('skip')}>
        {step.kind === 'rounds' ? 'Enough rounds' : 'Skip'}
      </Button>
      <Button onBar hint="N" onClick={() => onAsk('note')}>
        Note
      </Button>
      <Button onBar className="ml-auto" onClick={onLeave}>
        Leave the fitting
      </Button>
    </div>
  );
}
