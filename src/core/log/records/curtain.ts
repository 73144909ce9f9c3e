import { clockTime, zoneOf } from '../../base';
import { instant } from './fields';
import { recordKind, type RecordOf } from './record';

/** When the show starts; null where none is set. */
export const curtain = recordKind(
  'curtain',
  { curtainMs: instant().nullable().defined() },
  (r, { zone }) => (r.curtainMs === null ? 'No show' : `Show starts at ${clockTime(r.curtainMs, zoneOf(r, zone))}`),
  { curtainMs: 1_781_272_806_000 },
);
export type CurtainRecord = RecordOf<typeof curtain>;
