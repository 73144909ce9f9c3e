import { RECORD_VERSION } from './types';

/**
 * Brings a record of an older version up to the present one, before it is checked; anything else is handed on as it is.
 * Version 1 readings need not have had partials: from version 2 on every reading has the list, empty where none are known.
 */
export function migrate(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  const record = value as Record<string, unknown>;
  if (record.version !== 1) return value;
  return {
    ...record,
    version: RECORD_VERSION,
    ...(record.type === 'reading' ? { partials: record.partials ?? [] } : {}),
  };
}
