import { useState } from 'react';
import { Button } from '../parts/Button';
import { Modal } from '../parts/Modal';
import type { Check } from './useListening';

interface Props {
  open: boolean;
  listening: boolean;
  /** The answer to what was asked last; undefined while it listens. */
  check: Check | undefined;
  onCheck: (referenceHz?: number) => void;
  onUseClock: (ratio: number) => void;
  onClose: () => void;
}

/** Is the input fit to measure by: the room's level and hum, and the sample clock against a tone that is known. */
export function InputSheet({ open, listening, check, onCheck, onUseClock, onClose }: Props) {
  const [asked, setAsked] = useState(false);
  const [text, setText] = useState('440');
  const [fault, setFault] = useState('');
  const ask = (referenceHz?: number) => {
    setAsked(true);
    setFault('');
    onCheck(referenceHz);
  };
  const clock = check?.kind === 'clock-check' && check.check.ok ? check.check : undefined;
  return (
    <Modal
      open={open}
      title="Check the input"
      onClose={() => {
        setAsked(false);
        onClose();
      }}
    >
      {!listening && <p className="pb-3 text-sm">Listen first: close this sheet and press Space.</p>}
      <p className="pb-2 text-sm">Keep quiet for two seconds, strings damped: the room is judged.</p>
      <Button strong disabled={!listening} onClick={() => ask()}>
        Listen to the room
      </Button>
      <form
        className="flex flex-col gap-2 border-t border-line pt-4 mt-4"
        onSubmit={(e) => {
          e.preventDefault();
          const hz = Number(text.replace(',', '.'));
          if (hz >= 30 && hz <= 4000) ask(hz);
          else setFault('Give the reference from 30 to 4000 Hz.');
        }}
      >
        <label className="flex flex-col gap-1 text-sm">
          Hz of a steady tone that you know. Sound it, then measure the clock
          <input
            className="figure rounded-md border border-ink2 bg-paper px-3 py-2"
            value={text}
            aria-invalid={fault !== ''}
            onChange={(e) => setText(e.target.value)}
          />
        </label>
        <p role="alert" className="text-sm text-rust">
          {fault}
        </p>
        <span>
          <Button type="submit" disabled={!listening}>
            Measure the clock
          </Button>
        </span>
      </form>
      <p role="status" data-testid="input-check" className="min-h-12 pt-3 text-sm font-semibold">
        {check ? check.check.message : asked ? 'Listening …' : ''}
      </p>
      {clock && <Button onClick={() => onUseClock(clock.ratio)}>Correct readings from this input by that</Button>}
    </Modal>
  );
}
