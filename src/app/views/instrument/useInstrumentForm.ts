import { v4 as newId } from 'uuid';
import { yupResolver } from '@hookform/resolvers/yup';
import { useMemo, useRef } from 'react';
import { useFieldArray, useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { describedIn, type InstrumentRecord } from '../../../core/log';
import { FaultyRecord, heldInMemory } from '../../world/held';
import { useWorld } from '../../world/world';
import { recordOf, schemaOf, strungMoments, type Fields } from './fields';

/** The form of one instrument, and how it is kept. @param existing the one that is edited */
export function useInstrumentForm(defaults: Fields, existing: InstrumentRecord | undefined) {
  const { bench, append, basePath, nowMs, zone } = useWorld();
  const navigate = useNavigate();
  const taken = useMemo(
    () =>
      describedIn(bench)
        .filter((r) => r.instrumentId !== existing?.instrumentId)
        .map((r) => r.name),
    [bench, existing],
  );
  const schema = useMemo(() => schemaOf(taken, nowMs, zone), [taken, nowMs, zone]);
  const form = useForm<Fields>({ resolver: yupResolver(schema), defaultValues: defaults });
  const keeping = useRef(false);
  const rows = useFieldArray({ control: form.control, name: 'strings', keyName: 'key' });

  /** Writes what is sound, and opens it on the bench. */
  const keep = async (f: Fields) => {
    // Pressed again while the browser is slow to answer, it is the same instrument, once.
    if (keeping.current) return;
    keeping.current = true;
    const instrumentId = existing?.instrumentId ?? newId();
    try {
      await append([
        recordOf(f, instrumentId, existing),
        ...strungMoments(f, nowMs(), zone).map((m) => ({ type: 'fitted' as const, instrumentId, ...m })),
      ]);
    } catch (error) {
      // Held in memory, as the header says, it is on the bench as well: it is not put there twice.
      if (error instanceof FaultyRecord) return form.setError('root', { message: error.message });
    } finally {
      keeping.current = false;
    }
    await navigate(`${basePath}/bench/${instrumentId}`);
  };
  /** Off the bench or back on it, with all that is known of it. */
  const move = async (record: InstrumentRecord, away: boolean) => {
    const { type, instrumentId, name, family, strings, build } = record;
    try {
      await append([
        { type, instrumentId, name, family, strings, ...(build ? { build } : {}), ...(away ? { away } : {}) },
      ]);
    } catch (error) {
      form.setError('root', { message: heldInMemory(error as Error) });
      return;
    }
    await navigate(`${basePath}/bench/${away ? '' : instrumentId}`);
  };
  return { form, rows, keep, move, taken };
}
