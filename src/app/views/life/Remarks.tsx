import { useRef, useState } from 'react';
import type { InstrumentLife } from '../../../core/log';
import { localDay } from '../../../core/base';
import { Button } from '../../parts/Button';
import { FileInput } from '../../parts/FileInput';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';
import { photoOf } from './photo';

/** Remarks and photographs: what a figure does not say. */
export function Remarks({ life }: { life: InstrumentLife }) {
  const { bench } = useWorld();
  const { instrumentId, name } = life.record;
  const [text, setText] = useState('');
  const [stringId, setStringId] = useState('');
  const [photo, setPhoto] = useState<string | undefined>(undefined);
  const [message, say] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const write = useWriting(say);
  const remarks = bench.remarks.filter((r) => r.instrumentId === instrumentId).reverse();
  const noteOf = (id: string | undefined) => life.record.strings.find((s) => s.stringId === id)?.note;
  const take = async (file: File) => {
    const made = await photoOf(file);
    if (!made.ok) return say(made.message);
    setPhoto(made.jpeg);
    say('');
  };
  const save = () => {
    const said = text.trim() || (photo ? 'Photograph' : '');
    if (!said) return say('Write a remark first, or choose a photograph.');
    void write(
      [
        {
          type: 'remark',
          instrumentId,
          text: said,
          ...(stringId ? { stringId } : {}),
          ...(photo ? { photo } : {}),
        },
      ],
      () => {
        setText('');
        setPhoto(undefined);
        say('Saved.');
      },
    );
  };
  return (
    <section aria-label="Remarks">
      <h2 className="pb-1 font-semibold">Remarks and photographs</h2>
      <div className="flex flex-wrap items-start gap-2 pb-2 text-sm print:hidden">
        <textarea
          value={text}
          maxLength={400}
          rows={2}
          aria-label={`Remark on ${name}`}
          onChange={(e) => setText(e.target.value)}
          className="w-96 max-w-full rounded-md border border-ink2 bg-sheet px-2 py-1.5"
        />
        <select
          value={stringId}
          aria-label="Which string"
          onChange={(e) => setStringId(e.target.value)}
          className="rounded-md border border-ink2 bg-sheet px-2 py-1.5"
        >
          <option value="">the instrument</option>
          {life.record.strings.map((plan) => (
            <option key={plan.stringId} value={plan.stringId}>
              {plan.note}
            </option>
          ))}
        </select>
        <Button onClick={() => input.current?.click()}>{photo ? 'Another photograph' : 'Add a photograph'}</Button>
        <Button strong={text.trim() !== '' || photo !== undefined} onClick={save}>
          Save the remark
        </Button>
        <FileInput ref={input} accept="image/*" label="Photograph" onFile={(f) => void take(f)} />
        {photo && <img src={`data:image/jpeg;base64,${photo}`} alt="Photograph to be saved" className="h-16 rounded" />}
        <span role="status" className="self-center">
          {message}
        </span>
      </div>
      <ul className="flex flex-wrap gap-3 text-sm">
        {remarks.map((r) => (
          <li key={r.id} className="w-64 border-l-4 border-water pl-2">
            <span className="figure block text-xs text-ink2">
              {localDay(r.atMs, r.zoneMin)} {noteOf(r.stringId)}
            </span>
            {r.text}
            {r.photo && (
              <img
                src={`data:image/jpeg;base64,${r.photo}`}
                alt={`Photograph: ${r.text}`}
                className="mt-1 w-full rounded"
              />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
