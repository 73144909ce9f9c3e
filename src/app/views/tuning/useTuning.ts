import { useMemo, useState } from 'react';
import { noteSets, temperOffsets, transpose, type StringTarget, type Temper } from '../../../core/music';
import type { InstrumentLife } from '../../../core/log';
import type { Tuning } from '../../world/tunings';

/** What is being put together: notes, temper, capo. */
export interface TuningDraft {
  name: string;
  notes: string[];
  temper: Temper;
  capo: number;
}

const temperName = (temper: Temper): string => {
  switch (temper.kind) {
    case 'equal':
      return 'equal';
    case 'fifths':
      return temper.narrowCents === 0 ? 'pure fifths' : `fifths narrowed by ${temper.narrowCents.toFixed(1)}`;
    case 'just':
      return `just on ${TONICS[temper.tonic]}`;
    case 'own':
      return 'own offsets';
  }
};
export const TONICS = ['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'];

/** The draft in one place: what every string is to sound, its name, and the record that puts it in force. */
export function useTuning(life: InstrumentLife) {
  const own = useMemo(() => life.record.strings.map((s) => s.note), [life.record]);
  const sets = useMemo(() => noteSets(own), [own]);
  const inForce = life.tuning;
  const [draft, setDraft] = useState<TuningDraft>(() => draftOf(life, inForce));
  /** The name is the player's own for this draft, and stays with it. */
  const [named, setNamed] = useState(false);
  const targets = useMemo((): Required<StringTarget>[] => {
    const offsets = temperOffsets(draft.notes, draft.temper);
    return draft.notes.map((note, i) => ({
      note: transpose(note, draft.capo),
      offsetCents: Math.round(100 * offsets[i]!) / 100,
    }));
  }, [draft]);
  const set = sets.find((s) => s.notes.join() === draft.notes.join());
  const name =
    draft.name ||
    [set?.name ?? draft.notes.join(' '), temperName(draft.temper), draft.capo > 0 ? `capo ${draft.capo}` : '']
      .filter(Boolean)
      .join(', ')
      .slice(0, 60);
  const tuning: Tuning = {
    name,
    capo: draft.capo,
    strings: life.record.strings.map((s, i) => ({ stringId: s.stringId, ...targets[i]! })),
  };
  return {
    sets,
    set,
    draft,
    change: (by: Partial<Omit<TuningDraft, 'name'>>) => setDraft((d) => ({ ...d, ...by, name: named ? d.name : '' })),
    nameIt: (typed: string) => {
      setNamed(typed !== '');
      setDraft((d) => ({ ...d, name: typed }));
    },
    take: (tuning: Tuning) => {
      setNamed(false);
      setDraft(draftOf(life, tuning));
    },
    targets,
    name,
    tuning,
  };
}

/** A kept tuning as it can be gone on from: its notes without the capo, its offsets as the owner's own unless there are none. */
function draftOf(life: InstrumentLife, tuning: Tuning | undefined): TuningDraft {
  const capo = tuning?.capo ?? 0;
  const of = (stringId: string) => tuning?.strings.find((s) => s.stringId === stringId);
  const { strings } = life.record;
  const offsets = strings.map((s) => of(s.stringId)?.offsetCents ?? 0);
  return {
    name: tuning?.name ?? '',
    notes: strings.map((s) => transpose(of(s.stringId)?.note ?? transpose(s.note, capo), -capo)),
    temper: offsets.some((o) => o !== 0) ? { kind: 'own', offsets } : { kind: 'equal' },
    capo,
  };
}
