import { RECORD_VERSION } from './types';

/**
 * Brings a record of an older version up to the present one, before it is checked; anything else is handed on as it is.
 * Version 1 readings need not have had partials: from version 2 on every reading has the list, empty where none are known.
 */
export function migrate(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  const record = value as Record<string, unknown>;
  // The steps of an octave pass were once named with slashes, which is no id.
  if (record.type === 'pass' && Array.isArray(record.skipped))
    return {
      ...record,
      skipped: record.skipped.map((s: unknown) => (typeof s === 'string' ? s.replaceAll('/', ':') : s)),
    };
  if (record.version !== 1) return value;
  return {
    ...record,
    version: RECORD_VERSION,
    ...(record.type === 'reading' ? { partials: record.partials ?? [] } : {}),
  };
}
