import { useState, type FormEvent } from 'react';
import { Button } from '../../parts/Button';
import { useLabelAddress } from './useLabelAddress';

/** Where the labels lead, and another address for them. */
export function LabelAddress() {
  const { own, isHere, choose } = useLabelAddress();
  const [text, setText] = useState<string | undefined>(undefined);
  const [trouble, setTrouble] = useState('');
  const save = (event: FormEvent) => {
    event.preventDefault();
    void choose(text ?? '').then((wrong) => {
      setTrouble(wrong);
      if (!wrong) setText(undefined);
    });
  };
  return (
    <form noValidate onSubmit={save} className="flex flex-wrap items-center gap-2 pt-1 text-xs text-ink2">
      <span>
        Labels lead to {own}.{isHere && ' This address opens on this device only.'}
      </span>
      {text === undefined ? (
        <button
          type="button"
          className="text-deep underline underline-offset-4"
          onClick={() => setText(isHere ? '' : own)}
        >
          Another address
        </button>
      ) : (
        <>
          <input
            value={text}
            onChange={(e) => setText(e.target.value)}
            aria-label="Address on the labels"
            placeholder="https://anchor.example.org"
            className="w-64 rounded-md border border-ink2 bg-sheet px-2 py-1 text-ink"
          />
          <Button type="submit">Use it</Button>
        </>
      )}
      {trouble && (
        <span role="alert" className="text-rust">
          {trouble}
        </span>
      )}
    </form>
  );
}
