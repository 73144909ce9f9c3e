import { useState } from 'react';
import { Button } from '../parts/Button';
import { Modal } from '../parts/Modal';

interface Props {
  name: string;
  value: string;
  start: string;
  help: string;
  /** Keeps the text, or returns the sentence that says what is wrong. */
  onKeep: (text: string) => string | undefined;
}

/** A fact in the header that opens to be typed. */
export function FieldButton({ name, value, start, help, onKeep }: Props) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string | undefined>();
  return (
    <>
      <button
        type="button"
        className="rounded-md text-left leading-tight"
        onClick={() => {
          setText(start);
          setFault(undefined);
          setOpen(true);
        }}
      >
        <span className="block text-xs text-ink2">{name}</span>
        <span className="figure block text-[15px] font-bold">{value}</span>
      </button>
      <Modal open={open} title={name} onClose={() => setOpen(false)}>
        <form
          className="flex flex-col gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            const wrong = onKeep(text);
            setFault(wrong);
            if (wrong !== undefined) return;
            setOpen(false);
          }}
        >
          <label className="flex flex-col gap-1 text-sm">
            {help}
            <input
              autoFocus
              className="figure rounded-md border border-ink2 bg-paper px-3 py-2 text-lg"
              value={text}
              aria-invalid={fault !== undefined}
              onChange={(e) => setText(e.target.value)}
            />
          </label>
          <p role="alert" className="min-h-5 text-sm text-rust">
            {fault}
          </p>
          <div className="flex gap-2">
            <Button strong type="submit">
              Save it
            </Button>
            <Button onClick={() => setOpen(false)}>Leave it</Button>
          </div>
        </form>
      </Modal>
    </>
  );
}
