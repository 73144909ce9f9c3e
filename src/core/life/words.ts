import { clockTime, HOUR, localDay } from '../base';
import { TOLERANCE_CENTS } from '../check';
import type { Bench, InstrumentLife, ReadingRecord } from '../log';
import { plusMinus, signedCents } from '../music';
import { foundAndLeft, type FoundAndLeft } from './life';

/** What was done or remarked so long before the first reading of a walk, and after its last one, belongs to it, ms (house). */
const ABOUT_MS = HOUR;

const figure = (r: ReadingRecord): string => `${signedCents(r.cents)} ${plusMinus(r.sigmaCents)}`;

/** As a string was found, and as it was left, in words where no figure is. */
function rowOf({ note, bare, found, left }: FoundAndLeft) {
  const none = bare ? 'no string' : 'not read';
  const asFound = found && Math.abs(found.cents) <= TOLERANCE_CENTS ? 'left as found' : 'not brought up';
  return { note, found: found ? figure(found) : none, left: left ? figure(left) : found ? asFound : none };
}

/** The sheet that an owner is handed: one walk, what each string stood at as it came and as it goes, and what was done. */
export function lifeSheet(life: InstrumentLife, { treatments, remarks }: Pick<Bench, 'treatments' | 'remarks'>) {
  const { instrumentId } = life.record;
  const walk = foundAndLeft(life);
  const read = walk.flatMap((s) => [s.found, s.left]).filter((r) => r !== undefined);
  const inTime = [...read].sort((a, b) => a.atMs - b.atMs);
  const [first, last] = [inTime[0], inTime.at(-1)];
  const temps = read.flatMap((r) => r.tempC ?? []);
  const isOfIt = (r: { instrumentId: string; atMs: number }) =>
    first !== undefined &&
    r.instrumentId === instrumentId &&
    r.atMs >= first.atMs - ABOUT_MS &&
    r.atMs <= last!.atMs + ABOUT_MS;
  const notesOf = (ids: readonly string[]) =>
    walk.flatMap((s) => (ids.includes(s.stringId) ? [s.note] : [])).join(', ');
  const { owner, place, code } = life.about ?? {};
  return {
    title: `${life.record.name}: as found and as left`,
    facts: last
      ? [
          ['Date', localDay(last.atMs, last.zoneMin)],
          ['Time', clockTime(last.atMs, last.zoneMin)],
          ['Reference', `A4 = ${last.a4Hz.toFixed(1)} Hz`],
          ['Room', temps.length > 0 ? `${temps.at(-1)!.toFixed(1)} °C` : 'not measured'],
          ['Tuned as', life.tuning?.name ?? 'its own notes'],
          ...(owner ? [['Owner', owner]] : []),
          ...(place ? [['Kept at', place]] : []),
          ...(code ? [['Code', code]] : []),
        ]
      : [],
    rows: read.length === 0 ? [] : walk.map(rowOf),
    done: treatments
      .filter(isOfIt)
      .map((t) => `${notesOf(t.stringIds)}: ${t.treatment}${t.note ? ` (${t.note})` : ''}`),
    remarks: remarks
      .filter(isOfIt)
      .map((r) => (r.stringId === undefined ? r.text : `${notesOf([r.stringId])}: ${r.text}`)),
    note: 'Cents from the target. ±: nine of ten readings lie within it.',
  };
}

const rate = (perHour: number | null) => (perHour === null ? 'not read' : perHour.toFixed(1).replace('-', '−'));
/** How it fell before and after it was treated. @param before and after, cents an hour; null where it was not read */
export const ratesWords = (before: number | null, after: number | null): string =>
  `Cents an hour in the day before ${rate(before)}, in the day after ${rate(after)}`;
