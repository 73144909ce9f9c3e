import Papa from 'papaparse';
import { instantOf, localDay, type Zone } from '../base';
import { LONGEST_NAME } from '../limits';
import { checkRecord, RECORD_VERSION, type Draft, type StringPlan } from '../log';
import { FAMILIES } from '../strings';

/** What a column of an inventory can hold. */
export const INVENTORY_FIELDS = ['name', 'family', 'owner', 'place', 'tags', 'code', 'strung'] as const;
export type InventoryField = (typeof INVENTORY_FIELDS)[number];
/** Which column holds what; a field that no column holds is missing. */
export type Columns = { [F in InventoryField]?: number | undefined };

/** Instruments, and columns, at most in one list (house limits). */
const MOST_ROWS = 2000;
const MOST_COLUMNS = 200;

export type Table = { ok: true; header: string[]; rows: string[][] } | { ok: false; message: string };

/** A CSV file as a header and rows of as many cells; what separates them is found out. */
export function readTable(text: string): Table {
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  const quoted = errors.find((e) => e.type === 'Quotes');
  if (quoted) return { ok: false, message: `Line ${(quoted.row ?? 0) + 1} has a quotation mark that is not closed.` };
  const [header, ...rows] = data;
  if (!header || rows.length === 0)
    return { ok: false, message: 'The file has no rows. It needs a line of headings and a line for every instrument.' };
  if (rows.length > MOST_ROWS)
    return { ok: false, message: `The list has ${rows.length} rows. ${MOST_ROWS} can be taken at once.` };
  if (header.length > MOST_COLUMNS)
    return { ok: false, message: `The list has ${header.length} columns. ${MOST_COLUMNS} can be told apart.` };
  const trim = (row: string[]) => header.map((_, i) => (row[i] ?? '').trim());
  return { ok: true, header: header.map((h) => h.trim()), rows: rows.map(trim) };
}

const NAMED: Record<InventoryField, RegExp> = {
  name: /name|instrument|title/i,
  family: /family|type|kind|model/i,
  owner: /owner|client|player|pupil|student|customer/i,
  place: /place|room|location|where|shelf/i,
  tags: /tag|label|group|class/i,
  code: /code|number|no\.?$|inventory|id$/i,
  strung: /strung|strings|restring/i,
};

/** Columns by their headings, as far as they tell; each is used once. */
export function guessColumns(header: readonly string[]): Columns {
  const used = new Set<number>();
  const columns: Columns = {};
  for (const field of INVENTORY_FIELDS) {
    const at = header.findIndex((h, i) => !used.has(i) && NAMED[field].test(h));
    if (at < 0) continue;
    columns[field] = at;
    used.add(at);
  }
  return columns;
}

export interface InventoryFault {
  /** As a spreadsheet counts: the line of headings is 1. */
  line: number;
  message: string;
}
export interface InventoryRow {
  name: string;
  family: (typeof FAMILIES)[number];
  owner: string;
  place: string;
  tags: string[];
  code: string;
  strungMs: number | null;
}

/** The noon of a day, or now where that is today and to come yet; NaN for what is no day. */
function strungOn(day: string, nowMs: number, zone: Zone): number {
  const noon = instantOf(`${day}T12:00`, zone);
  return noon > nowMs && localDay(nowMs, zone) === day ? nowMs : noon;
}
const plain = (s: string) =>
  s
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
const familyBy = (text: string) =>
  FAMILIES.find((f) => f.code === text || plain(f.name) === plain(text)) ??
  FAMILIES.find((f) => plain(text).length > 3 && plain(f.name).startsWith(plain(text)));

/**
 * Checks a list row by row: nothing of it is written before all of it is right.
 * @param taken names that instruments have already
 * @param nowMs nothing was strung after this
 * @param zone by whose wall clock its days are
 */
export function checkInventory(
  rows: readonly string[][],
  columns: Columns,
  taken: readonly string[],
  nowMs: number,
  zone: Zone,
): { rows: InventoryRow[]; faults: InventoryFault[] } {
  const faults: InventoryFault[] = [];
  const names = new Map(taken.map((n) => [n, 0]));
  const read = rows.map((cells, i): InventoryRow | undefined => {
    const line = i + 2;
    const cell = (field: InventoryField) => (columns[field] === undefined ? '' : (cells[columns[field]] ?? ''));
    const before = faults.length;
    const fault = (message: string) => faults.push({ line, message });
    const name = cell('name');
    const twin = names.get(name);
    if (!name) fault('The name is missing.');
    else if (name.length > LONGEST_NAME) fault(`The name is longer than ${LONGEST_NAME} characters.`);
    else if (twin === 0) fault(`${name} is on the bench already.`);
    else if (twin !== undefined) fault(`${name} stands on line ${twin} too. Give it another name.`);
    if (name && twin === undefined) names.set(name, line);
    const family = familyBy(cell('family'));
    if (!family)
      fault(cell('family') ? `“${cell('family')}” is not a kind of instrument here.` : 'The kind is missing.');
    const strung = cell('strung');
    const strungMs = strung ? strungOn(strung, nowMs, zone) : null;
    if (strungMs !== null && !(strungMs >= 0)) fault(`“${strung}” is no date. Write it as 2026-05-31.`);
    else if (strungMs !== null && strungMs > nowMs) fault(`It cannot have been strung on ${strung}: that is to come.`);
    const code = cell('code');
    if (!/^[A-Za-z0-9-]{0,16}$/.test(code))
      fault(`The code “${code}” may have letters, figures and hyphens, 16 at most.`);
    for (const field of ['owner', 'place'] as const)
      if (cell(field).length > LONGEST_NAME) fault(`The ${field} is longer than ${LONGEST_NAME} characters.`);
    const tags = cell('tags')
      .split(/[,;/]/)
      .map((t) => t.trim())
      .filter(Boolean);
    if (tags.length > 12 || tags.some((t) => t.length > 30))
      fault('A tag has 30 characters at most, an instrument 12 tags.');
    if (faults.length > before) return undefined;
    const row = { name, family: family!, owner: cell('owner'), place: cell('place'), tags, code, strungMs };
    // What the log would refuse is told here, with its line.
    for (const draft of inventoryDrafts(row, 'x')) {
      const checked = checkRecord({ id: 'x', version: RECORD_VERSION, atMs: nowMs, zoneMin: 0, ...draft });
      if (!checked.ok) fault(checked.message.replace(/^[a-z]+: /, ''));
    }
    return faults.length > before ? undefined : row;
  });
  return { rows: read.filter((r) => r !== undefined), faults };
}

/** The records of one instrument of a list. @param instrumentId a new one */
export function inventoryDrafts(
  { name, family, owner, place, tags, code, strungMs }: InventoryRow,
  instrumentId: string,
): Draft[] {
  const strings = family.strings.map((s, i): StringPlan => ({ ...s, stringId: `s${i + 1}` }));
  const about = {
    ...(owner ? { owner } : {}),
    ...(place ? { place } : {}),
    ...(tags.length > 0 ? { tags } : {}),
    ...(code ? { code } : {}),
  };
  return [
    { type: 'instrument', instrumentId, name, family: family.code, strings },
    ...(Object.keys(about).length > 0 ? [{ type: 'about' as const, instrumentId, ...about }] : []),
    ...(strungMs === null
      ? []
      : strings.map(({ stringId }) => ({ type: 'fitted' as const, instrumentId, stringId, atMs: strungMs }))),
  ];
}
