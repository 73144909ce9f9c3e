import { ValidationError } from 'yup';
import { brief } from '../limits';
import { RECORD_VERSION } from './records/record';
import { migrate } from './migrate';
import { byType, type LogRecord } from './records';

export type Checked = { ok: true; record: LogRecord } | { ok: false; message: string };

/** Checks one record of unknown origin, brought up to the present version; the message names the field. */
export function checkRecord(given: unknown): Checked {
  const value = migrate(given);
  if (typeof value !== 'object' || value === null) return { ok: false, message: 'is not a record' };
  const { type, version } = value as { type?: unknown; version?: unknown };
  if (typeof version === 'number' && version > RECORD_VERSION)
    return { ok: false, message: 'was written by a newer version of Slow Anchor: it has to be read by that' };
  const kind = typeof type === 'string' ? byType.get(type) : undefined;
  if (!kind)
    return { ok: false, message: brief(`has the unknown type ${typeof type === 'string' ? `"${type}"` : 'none'}`) };
  if (kind.surely(value)) return { ok: true, record: value as LogRecord };
  try {
    return { ok: true, record: kind.schema.validateSync(value, { strict: true, abortEarly: true }) as LogRecord };
  } catch (error) {
    if (error instanceof ValidationError)
      return { ok: false, message: brief(`${error.path ? `${error.path}: ` : ''}${error.message}`) };
    throw error;
  }
}
