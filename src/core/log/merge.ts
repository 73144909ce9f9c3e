import equal from 'fast-deep-equal';
import canonical from 'fast-json-stable-stringify';
import { v5 as named, version } from 'uuid';
import { slices } from './life';
import type { LogIndex } from './log-index';
import { partOf } from './parts';
import type { LogRecord } from './records';
import { broughtBy } from './succession';

/** Of the names that records are given here (RFC 9562). */
const NAMESPACE = '9cf23db2-3f04-4a95-b55b-254850986a92';

/** The same record: everything that it says, its id too. */
export const isSame = (a: LogRecord, b: LogRecord): boolean => equal(a, b) || canonical(a) === canonical(b);

const isName = (id: string): boolean => /^[0-9a-f-]{36}$/.test(id) && version(id) === 5;

/** Finds the record that an id means to another one. */
type Find = (id: string, to: LogRecord) => LogRecord | undefined;

const refersTo = (r: LogRecord): string[] =>
  r.type === 'import' ? broughtBy(r) : r.supersedes === undefined ? [] : [r.supersedes];

/** A record after all that it refers to, each once; a circle, which no log that was written has, is cut somewhere. */
function lineOf(r: LogRecord, find: Find, isDone: (r: LogRecord) => boolean): LogRecord[] {
  const line: LogRecord[] = [];
  const seen = new Set<LogRecord>();
  const waiting: { r: LogRecord; ids: string[] }[] = [];
  const begin = (one: LogRecord | undefined) => {
    if (!one || isDone(one) || seen.has(one)) return;
    seen.add(one);
    waiting.push({ r: one, ids: refersTo(one) });
  };
  for (begin(r); waiting.length > 0;) {
    const last = waiting[waiting.length - 1]!;
    const id = last.ids.pop();
    if (id !== undefined) begin(find(id, last.r));
    else line.push(waiting.pop()!.r);
  }
  return line;
}

/** A record as its references are called elsewhere. */
function referring(r: LogRecord, find: Find, called: (r: LogRecord) => string | undefined): LogRecord {
  const as = (id: string): string => {
    const meant = find(id, r);
    return (meant && called(meant)) ?? id;
  };
  if (r.type === 'import') {
    const ids = broughtBy(r).map(as).join('\n');
    return ids === r.ids ? r : { ...r, ids };
  }
  const supersedes = r.supersedes === undefined ? undefined : as(r.supersedes);
  return supersedes === undefined || supersedes === r.supersedes ? r : { ...r, supersedes };
}

/**
 * The ids that records get where other ones have their own already: they follow from all that a record says, and from what it refers to,
 * so that the same record from any file gets the same one.
 */
function namer(find: Find): (r: LogRecord) => string {
  const names = new Map<LogRecord, string>();
  return (r) => {
    for (const one of lineOf(r, find, (o) => names.has(o)))
      names.set(one, isName(one.id) ? one.id : named(canonical(referring(one, find, (o) => names.get(o))), NAMESPACE));
    return names.get(r)!;
  };
}

/** What of a log is new to another one. */
export interface Merged {
  /** Under ids that no other record has. */
  fresh: LogRecord[];
  /** Those that are here already, as they are called here. */
  known: LogRecord[];
}

/** Records looked at between two words of progress. */
const SLICE = 2000;

/**
 * What of a log, by whomever, this one does not have. Known is what says the same, whatever it is called; what says something else under
 * an id that is taken here gets one of its own, and what refers to it follows. Goes in slices.
 */
export function* merge(index: LogIndex, given: readonly LogRecord[]): Generator<number, Merged, void> {
  const here = new Map<string, string>();
  for (const piece of index.headings()) for (const { id, of } of piece) here.set(id, of);
  yield 0;
  const own = findIn(given);
  const nameOf = namer(own);
  /** By what each record of the file is called here. */
  const called = new Map<LogRecord, string>();
  const fresh: LogRecord[] = [];
  const known: LogRecord[] = [];
  const names = new Map<string, ReadonlyMap<string, LogRecord>>();
  const nameHere = namer((id, to) => (here.has(id) ? index.get(id, partOf(to)) : undefined));
  /** The records of a part here by the ids that they would have been given elsewhere. */
  const namesIn = (part: string): ReadonlyMap<string, LogRecord> => {
    const made = names.get(part) ?? new Map(index.records(part).map((r) => [nameHere(r), r]));
    names.set(part, made);
    return made;
  };
  const take = (r: LogRecord): void => {
    const as = referring(r, own, (o) => called.get(o));
    const know = (one: LogRecord): void => {
      called.set(r, one.id);
      known.push(one);
    };
    const find = (id: string) => (here.has(id) ? index.get(id, partOf(r)) : undefined);
    const there = find(r.id);
    if (there && isSame(there, as)) return know(there);
    const elsewhere = !there && isName(r.id) ? namesIn(partOf(r)).get(r.id) : undefined;
    if (elsewhere) return know(elsewhere);
    const id = there || here.has(r.id) ? nameOf(r) : r.id;
    const before = id === r.id ? undefined : find(id);
    if (before) return know(before);
    called.set(r, id);
    here.set(id, partOf(r));
    fresh.push(id === r.id ? as : { ...as, id });
  };
  for (const [k, some] of slices(given, SLICE).entries()) {
    for (const r of some) for (const one of lineOf(r, own, (o) => called.has(o))) take(one);
    yield (k * SLICE + some.length) / given.length;
  }
  return { fresh, known };
}

/** Among the records of one file; of two of one id that of its own instrument. */
function findIn(records: readonly LogRecord[]): Find {
  const byId = new Map<string, LogRecord[]>();
  for (const r of records) {
    const before = byId.get(r.id);
    if (before) before.push(r);
    else byId.set(r.id, [r]);
  }
  return (id, to) => {
    const all = byId.get(id) ?? [];
    return all.find((r) => partOf(r) === partOf(to)) ?? all[0];
  };
}

/** The same records, each under an id that no other one of them has: logs of others once brought the same ids for two instruments. */
export function distinct(records: readonly LogRecord[]): LogRecord[] {
  const taken = new Map<string, LogRecord>();
  for (const r of records) if (!taken.has(r.id)) taken.set(r.id, r);
  if (taken.size === records.length) return [...records];
  const find = findIn(records);
  const nameOf = namer(find);
  const idOf = (r: LogRecord) => (taken.get(r.id) === r ? r.id : nameOf(r));
  return records.map((r) => ({ ...referring(r, find, idOf), id: idOf(r) }));
}
