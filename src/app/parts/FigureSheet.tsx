import { useId, useState } from 'react';
import { Button } from './Button';
import { Modal } from './Modal';

interface Props {
  open: boolean;
  title: string;
  label: string;
  help: string;
  /** What stands in the field at first. */
  start?: string;
  /** @returns what is wrong with it, or is to be confirmed; undefined where it is kept */
  onKeep: (text: string) => string | undefined;
  onClose: () => void;
}

/** A sheet that asks for one figure. */
export function FigureSheet({ open, title, label, help, start = '', onKeep, onClose }: Props) {
  const [text, setText] = useState(start);
  const [fault, setFault] = useState('');
  const faultId = useId();
  return (
    <Modal open={open} title={title} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          const wrong = onKeep(text);
          setFault(wrong ?? '');
          if (wrong === undefined) setText(start);
        }}
      >
        <label className="flex flex-col gap-1 text-sm">
          {label}
          <input
            autoFocus
            className="figure rounded-md border border-ink2 bg-paper px-3 py-2 text-lg"
            value={text}
            onChange={(e) => setText(e.target.value)}
            aria-invalid={fault !== ''}
            aria-describedby={faultId}
          />
        </label>
        <p id={faultId} role="alert" className="min-h-5 text-sm text-rust">
          {fault}
        </p>
        <p className="text-sm text-ink2">{help}</p>
        <div className="flex gap-2">
          <Button strong type="submit">
            Save it
          </Button>
          <Button onClick={onClose}>Leave it</Button>
        </div>
      </form>
    </Modal>
  );
}
