import { MINUTE } from '../base';
import type { LifeFit } from './fits';
import { lastLeft } from './falls';
import type { ReadingRecord, StringLife } from '../log';
import { warmthOf } from '../settling';

/** What two readings of a room's thermometer differ by when nothing has changed, °C (house estimate). */
const ROOM_C = 0.3;

/** Told by the other strings: they wander too, and share what hands did to all of them (house estimates, held against the truth by bench/audit). */
const BY_STRINGS = { share: 0.6, cents: 0.8 };

export type Lived = Pick<LifeFit, 'fit' | 'events' | 'startMs' | 'temperatureFrom'>;

/** What the room did to a string from when it was left to when it was read last, by the thermometer; undefined without one. */
export function roomSince(
  { readings }: Pick<StringLife, 'readings'>,
  { fit, events, startMs, temperatureFrom }: Lived,
) {
  const left = lastLeft(readings);
  const last = readings.at(-1);
  const warmth = (r: ReadingRecord) => {
    const event = events.findLast((e) => e.kind === 'read' && Math.abs(startMs + e.t * MINUTE - r.atMs) < 1);
    return event?.kind === 'read' ? event.tempC : undefined;
  };
  const [then, now] = [left && warmth(left), last && warmth(last)];
  if (!left || then === undefined || now === undefined || !fit.thermometer) return undefined;
  const degrees = now - then;
  const { mean, sd } = warmthOf(fit);
  const cents = mean * degrees;
  const byStrings = temperatureFrom === 'other strings' ? [BY_STRINGS.share * cents, BY_STRINGS.cents] : [];
  return { cents, sdCents: Math.hypot(sd * degrees, mean * ROOM_C, ...byStrings), degrees, sinceMs: left.atMs };
}
