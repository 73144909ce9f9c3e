import { useNavigate } from 'react-router';
import { freeName, type InstrumentRecord } from '../../core/log';
import { useWorld } from './world';
import { useWriting } from './writing';

/** What the page that is gone to is told of where one comes from. */
export interface Left {
  /** The instrument that was just put away. */
  putAway?: string;
}

/** Puts instruments away and brings them back, with all that is known of them. @param say what the browser refused */
export function useAway(say: (sentence: string) => void) {
  const { bench, basePath } = useWorld();
  const navigate = useNavigate();
  const write = useWriting(say);
  const move = (
    { type, instrumentId, name, family, strings, build }: InstrumentRecord,
    away: boolean,
    then: () => void,
  ) => {
    // Put away, its name was free: it may be another one's now.
    const taken = bench.instruments.map(({ record }) => record.name);
    const as = away ? name : freeName(name, taken);
    const draft = {
      type,
      instrumentId,
      name: as,
      family,
      strings,
      ...(build ? { build } : {}),
      ...(away ? { away } : {}),
    };
    void write([draft], then);
  };
  return {
    putAway: (record: InstrumentRecord) =>
      move(
        record,
        true,
        () => void navigate(`${basePath}/bench`, { state: { putAway: record.instrumentId } satisfies Left }),
      ),
    bringBack: (record: InstrumentRecord) =>
      move(record, false, () => void navigate(`${basePath}/bench/${record.instrumentId}`)),
  };
}
