import { LEAST_SIGMA_CENTS, MOST_SEQ } from '../limits';
import { RECORD_VERSION } from './types';

/**
 * Brings a record of an older version up to the present one, before it is checked; anything else is handed on as it is.
 * A place in the order of writing that leaves no room for another one after it is let go: such records are in order by their times.
 * Nothing is known better than to a thousandth of a cent: a doubt of none is brought up to that.
 * Version 1 readings need not have had partials: from version 2 on every reading has the list, empty where none are known.
 */
export function migrate(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  const { written, ...unnumbered } = value as Record<string, unknown>;
  const { seq } = (typeof written === 'object' && written !== null ? written : {}) as { seq?: unknown };
  const record = typeof seq === 'number' && seq > MOST_SEQ ? unnumbered : (value as Record<string, unknown>);
  // The steps of an octave pass were once named with slashes, which is no id.
  if (record.type === 'pass' && Array.isArray(record.skipped))
    return {
      ...record,
      skipped: record.skipped.map((s: unknown) => (typeof s === 'string' ? s.replaceAll('/', ':') : s)),
    };
  const { sigmaCents } = record;
  if (typeof sigmaCents === 'number' && sigmaCents >= 0 && sigmaCents < LEAST_SIGMA_CENTS)
    return migrate({ ...record, sigmaCents: LEAST_SIGMA_CENTS });
  if (record.version !== 1) return record;
  return {
    ...record,
    version: RECORD_VERSION,
    ...(record.type === 'reading' ? { partials: record.partials ?? [] } : {}),
  };
}
