import { clockTime, localDay, type Zone } from '../base';

/** One backup among the others of its folder, as its name tells. */
export interface Generation {
  name: string;
  /** Whose it is: of which log, written by which device. */
  of: string;
  /** Local day and time of writing, 'YYYY-MM-DD' and 'HHMM'. */
  day: string;
  time: string;
}

/** Files that look like ours; the one of before had no day. */
const NAMED = /^slow-anchor-((?:own|demo)-[A-Za-z0-9]{1,12})_(\d{4}-\d\d-\d\d)_(\d{4})\.json$/;
/** What one backup was called while there was one alone. */
const LONE_BACKUP = 'slow-anchor-backup.json';

/** So many days keep one backup each, and so many months (house). */
const DAYS = 14;
const MONTHS = 12;

/** What a backup is called: by its log, its device and its minute. */
export const backupName = (log: string, device: string, atMs: number, zone: Zone): string =>
  `slow-anchor-${log}-${device.replace(/[^A-Za-z0-9]/g, '').slice(0, 8) || '0'}_${localDay(atMs, zone)}_${clockTime(atMs, zone).replace(':', '')}.json`;

/** Which log a backup is of, and when it was written, by its file's name; undefined for another file. */
export function generationOf(name: string): Generation | undefined {
  const [, of, day, time] = NAMED.exec(name) ?? [];
  return of && day && time ? { name, of, day, time } : undefined;
}

/** Whether a file of a folder may be a backup. */
export const isBackup = (name: string): boolean => name === LONE_BACKUP || generationOf(name) !== undefined;

/**
 * Backups that others make needless: of each day the newest stays for two weeks, of each month the newest for a year. Those of other
 * logs and other devices are none of its business.
 * @param names what is in the folder, the newest of these too
 * @param newest the backup that was just written
 */
export function spent(names: readonly string[], newest: string): string[] {
  const own = generationOf(newest);
  if (!own) return [];
  const all = names
    .flatMap((name) => generationOf(name) ?? [])
    .filter((g) => g.of === own.of && g.name <= newest)
    .sort((a, b) => (a.name < b.name ? 1 : -1));
  const firsts = (part: (g: Generation) => string, most: number): string[] =>
    all
      .filter((g, i) => i === 0 || part(g) !== part(all[i - 1]!))
      .slice(0, most)
      .map((g) => g.name);
  const kept = new Set([newest, ...firsts((g) => g.day, DAYS), ...firsts((g) => g.day.slice(0, 7), MONTHS)]);
  return all.flatMap((g) => (kept.has(g.name) ? [] : [g.name]));
}
