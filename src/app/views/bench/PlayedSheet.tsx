import { useState } from 'react';
import { LONGEST_SHOW_MIN } from '../../../core/limits';
import { Button } from '../../parts/Button';
import { figureIn } from '../../parts/format';
import { Modal } from '../../parts/Modal';

interface Props {
  open: boolean;
  name: string;
  onClose: () => void;
  onKeep: (minutes: number) => void;
}

/** The instrument was played outside a show: how long, up to now. Playing beds new strings and warms them. */
export function PlayedSheet({ open, name, onClose, onKeep }: Props) {
  const [text, setText] = useState('30');
  const [fault, setFault] = useState('');
  return (
    <Modal open={open} title={`${name} was played`} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          const minutes = figureIn(text);
          if (!(minutes >= 1 && minutes <= LONGEST_SHOW_MIN)) return setFault('Write minutes, from 1 on.');
          setFault('');
          onKeep(minutes);
        }}
      >
        <label className="flex flex-col gap-1 text-sm">
          Minutes, up to now
          <input
            autoFocus
            className="figure rounded-md border border-ink2 bg-paper px-3 py-2 text-lg"
            value={text}
            onChange={(e) => setText(e.target.value)}
            aria-invalid={fault !== ''}
            aria-describedby="played-fault"
          />
        </label>
        <p id="played-fault" role="alert" className="min-h-5 text-sm text-rust">
          {fault}
        </p>
        <p className="text-sm text-ink2">
          Playing beds a new string and warms it. The forecast takes that in; read the strings once they have cooled.
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
