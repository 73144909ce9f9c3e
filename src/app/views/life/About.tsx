import { useState } from 'react';
import type { InstrumentLife } from '../../../core/log';
import { Button } from '../../parts/Button';
import { useWriting } from '../../world/writing';

const field = 'w-full rounded-md border border-ink2 bg-sheet px-2 py-1.5';
const FIELDS = [
  ['owner', 'Owner', 60],
  ['place', 'Where it is kept', 60],
  ['tags', 'Tags, with commas', 200],
  ['code', 'Short code for its label', 16],
] as const;

/** Whose it is, where it is, what it goes with: kept as a new entry when it is saved. */
export function About({ life }: { life: InstrumentLife }) {
  const { about, record } = life;
  const [message, say] = useState('');
  const write = useWriting(say);
  const given = {
    owner: about?.owner ?? '',
    place: about?.place ?? '',
    tags: (about?.tags ?? []).join(', '),
    code: about?.code ?? '',
  };
  const [draft, setDraft] = useState(given);
  const changed = FIELDS.some(([f]) => draft[f].trim() !== given[f]);
  const save = () => {
    const [owner, place, code] = [draft.owner.trim(), draft.place.trim(), draft.code.trim()];
    const tags = draft.tags
      .split(',')
      .map((t) => t.trim())
      .filter(Boolean);
    void write(
      [
        {
          type: 'about',
          instrumentId: record.instrumentId,
          ...(owner ? { owner } : {}),
          ...(place ? { place } : {}),
          ...(tags.length > 0 ? { tags } : {}),
          ...(code ? { code } : {}),
        },
      ],
      () => say('Saved.'),
    );
  };
  return (
    <form
      aria-label="About it"
      className="grid grid-cols-4 items-end gap-3 text-sm max-lg:grid-cols-2"
      onSubmit={(e) => {
        e.preventDefault();
        save();
      }}
    >
      {FIELDS.map(([name, words, most]) => (
        <label key={name}>
          {words}
          <input
            value={draft[name]}
            maxLength={most}
            onChange={(e) => setDraft((d) => ({ ...d, [name]: e.target.value }))}
            className={field}
          />
        </label>
      ))}
      <p className="col-span-full flex min-h-9 items-center gap-3">
        <Button type="submit" strong={changed} disabled={!changed}>
          Save
        </Button>
        <span role="status">{message}</span>
      </p>
    </form>
  );
}
