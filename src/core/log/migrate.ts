import { LEAST_SIGMA_CENTS, MOST_SEQ } from '../limits';
import { RECORD_VERSION } from './records/record';
import { byType } from './records';

/**
 * Brings a record of an older version up to the present one, step by step, before it is checked; anything else is handed on as it is.
 * What early code wrote within a version is mended first: a place in the order of writing that leaves no room for another one after it
 * is let go; the steps of an octave pass were once named with slashes, which is no id; a doubt of none is brought up to a thousandth of a cent.
 */
export function migrate(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  let record = mended(value as Record<string, unknown>);
  const kind = typeof record['type'] === 'string' ? byType.get(record['type']) : undefined;
  for (let v = record['version']; typeof v === 'number' && v >= 1 && v < RECORD_VERSION && Number.isInteger(v); v++) {
    record = { ...(kind?.steps[v]?.(record) ?? record), version: v + 1 };
  }
  return record;
}

function mended(given: Record<string, unknown>): Record<string, unknown> {
  const { written } = given;
  const { seq } = (typeof written === 'object' && written !== null ? written : {}) as { seq?: unknown };
  // A copy is made of those only that are mended: a log has hundreds of thousands.
  const record = typeof seq === 'number' && seq > MOST_SEQ ? { ...given } : given;
  if (record !== given) delete record['written'];
  const { type, skipped, sigmaCents } = record;
  if (type === 'pass' && Array.isArray(skipped))
    return { ...record, skipped: skipped.map((s: unknown) => (typeof s === 'string' ? s.replaceAll('/', ':') : s)) };
  if (typeof sigmaCents === 'number' && sigmaCents >= 0 && sigmaCents < LEAST_SIGMA_CENTS)
    return { ...record, sigmaCents: LEAST_SIGMA_CENTS };
  return record;
}
