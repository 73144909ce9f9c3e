import { oneOf } from './fields';
import { ofString, recordKind, type RecordOf } from './record';

export const REMOVAL_REASONS = ['worn', 'broke', 'changed'] as const;
export const BREAK_PLACES = ['tuner', 'nut', 'bridge', 'between'] as const;
export type RemovalReason = (typeof REMOVAL_REASONS)[number];
export type BreakPlace = (typeof BREAK_PLACES)[number];

/** A string came off, and where it broke; its life is read from the log. */
export const removed = recordKind(
  'removed',
  { ...ofString, reason: oneOf(REMOVAL_REASONS).required(), place: oneOf(BREAK_PLACES).optional() },
  (r, names) =>
    `${names.string(r.instrumentId, r.stringId)}: taken off, ${r.reason}${r.place ? ` at the ${r.place}` : ''}`,
  { instrumentId: 'x', stringId: 's1', reason: 'broke', place: 'nut' },
);
export type RemovedRecord = RecordOf<typeof removed>;
