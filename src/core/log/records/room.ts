import { degrees } from './fields';
import { recordKind, type RecordOf } from './record';

/** The room's temperature, deg C. */
export const room = recordKind('room', { tempC: degrees().required() }, (r) => `Room ${r.tempC.toFixed(1)} °C`, {
  tempC: 19.5,
});
export type RoomRecord = RecordOf<typeof room>;
