import { v4 as newId } from 'uuid';
import { yupResolver } from '@hookform/resolvers/yup';
import { useMemo, useRef } from 'react';
import { useFieldArray, useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import type { InstrumentRecord } from '../../../core/log';
import { FaultyRecord } from '../../world/held';
import { useWorld } from '../../world/world';
import { recordOf, schemaOf, strungMoments, type Fields } from './fields';

/** The form of one instrument, and how it is kept. @param existing the one that is edited */
export function useInstrumentForm(defaults: Fields, existing: InstrumentRecord | undefined) {
  const { bench, append, basePath, nowMs, zone } = useWorld();
  const navigate = useNavigate();
  const taken = useMemo(
    () =>
      bench.instruments
        .filter(({ record }) => record.instrumentId !== existing?.instrumentId)
        .map(({ record }) => record.name),
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
  return { form, rows, keep, taken };
}
