import { ICalAlarmType, ICalCalendar } from 'ical-generator';
import type { PlanItem } from '../plan';
import { MINUTE } from '../base';

export interface CalendarNames {
  /** What an item is called, with its instrument. */
  title(item: PlanItem): string;
  /** What its strings are called. */
  strings(item: PlanItem): string;
  place: string;
}

/** A reminder comes so long before, min: time to walk over (house). */
const REMIND_MIN = 3;

/**
 * The items of a plan as iCalendar (RFC 5545). The same item has the same UID in every export of one show, and a later export
 * a higher SEQUENCE, so that a second import updates.
 * @param writtenMs instant of the export
 */
export function planCalendar(items: readonly PlanItem[], names: CalendarNames, writtenMs: number): string {
  const calendar = new ICalCalendar({ prodId: { company: 'slow-anchor', product: 'plan' } });
  for (const item of items) {
    const remindMin = item.what === 'between' ? 1 : REMIND_MIN;
    const event = calendar.createEvent({
      id: `${item.uid}@slow-anchor`,
      sequence: Math.floor(writtenMs / MINUTE) % 1e9,
      start: new Date(item.atMs),
      end: new Date(item.atMs + MINUTE * Math.max(1, item.minutes)),
      stamp: new Date(writtenMs),
      lastModified: new Date(writtenMs),
      summary: names.title(item),
      description: `${names.strings(item)}: ${item.why}`,
      location: names.place,
    });
    event.createAlarm({ type: ICalAlarmType.display, description: names.title(item), triggerBefore: 60 * remindMin });
  }
  return calendar.toString();
}
