import { createEvents, type DateArray } from 'ics';
import type { PlanItem } from '../plan';

export interface CalendarNames {
  /** What an item is called, with its instrument. */
  title(item: PlanItem): string;
  /** What its strings are called. */
  strings(item: PlanItem): string;
  place: string;
}

/** A reminder comes so long before, min: time to walk over (house). */
const REMIND_MIN = 3;

const utc = (ms: number): DateArray => {
  const d = new Date(ms);
  return [d.getUTCFullYear(), d.getUTCMonth() + 1, d.getUTCDate(), d.getUTCHours(), d.getUTCMinutes()];
};

/**
 * The items of a plan as iCalendar (RFC 5545). The same item has the same UID in every export of one show, and a later export
 * a higher SEQUENCE, so that a second import updates.
 * @param writtenMs instant of the export
 */
export function planCalendar(items: readonly PlanItem[], names: CalendarNames, writtenMs: number): string {
  const { error, value } = createEvents(
    items.map((item) => ({
      uid: `${item.uid}@slow-anchor`,
      sequence: Math.floor(writtenMs / 60000) % 1e9,
      start: utc(item.atMs),
      startInputType: 'utc' as const,
      startOutputType: 'utc' as const,
      duration: { minutes: Math.max(1, item.minutes) },
      title: names.title(item),
      description: `${names.strings(item)}: ${item.why}`,
      location: names.place,
      alarms: [
        {
          action: 'display' as const,
          description: names.title(item),
          trigger: { minutes: item.what === 'between' ? 1 : REMIND_MIN, before: true },
        },
      ],
      productId: 'slow-anchor/plan',
      lastModified: utc(writtenMs),
    })),
  );
  if (error || !value) throw error ?? new Error('no calendar was made');
  return value;
}
