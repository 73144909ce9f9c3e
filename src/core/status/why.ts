import { clockTime, type Zone } from '../base';
import { lastSlip } from './falls';
import { leapBefore } from './events';
import type { StringLife } from '../log';
import { slopeOf } from '../settling';
import { signedCents } from '../music';
import { MATERIAL_NAMES } from '../strings';
import { type Lived, roomSince } from './room-since';

/** What the record shows to be at work. */
export function why(life: StringLife, lived: Lived, wish: { zone: Zone }): string {
  const { readings, plan } = life;
  const parts: string[] = [];
  const slip = lastSlip(readings);
  if (slip) {
    const leap = leapBefore(readings, slip);
    const size = `${Math.abs(leap).toFixed(0)} cents at ${clockTime(slip.atMs, wish.zone)}`;
    parts.push(
      leap > 0
        ? `It rose suddenly by ${size}. Was it turned, or did the nut let go?`
        : `It dropped suddenly by ${size}. Look at its winding and knot.`,
    );
  }
  const perDoubling = slopeOf(lived.fit).mean * Math.LN2;
  parts.push(
    perDoubling < 0.5
      ? 'It has almost stopped falling.'
      : `It falls about ${perDoubling.toFixed(perDoubling < 3 ? 1 : 0)} cents each time its age doubles, as ${MATERIAL_NAMES[plan.material]} does.`,
  );
  const room = roomSince(life, lived);
  if (room && Math.abs(room.cents) >= 0.4)
    parts.push(
      `The room moved it by about ${signedCents(room.cents)} cents since ${clockTime(room.sinceMs, wish.zone)}.`,
    );
  return parts.join(' ');
}
