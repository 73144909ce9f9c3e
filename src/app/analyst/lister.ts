import {
  byHeading,
  describedIn,
  headingOf,
  isWanted,
  namesIn,
  sayRecord,
  type Heading,
  type InstrumentRecord,
  type LogIndex,
  type Names,
  type Search,
} from '../../core/log';
import type { Listed, Questions } from './questions';
import type { LongTask } from './task';

/** What is looked for, a piece of the log at a time; by headings alone where they tell. */
function* search(index: LogIndex, names: Names, wanted: Search): Generator<Heading[]> {
  const { instrumentId, type } = wanted;
  if (wanted.differ) {
    const isOne = isWanted(names, wanted);
    yield index.contests().flatMap(({ stands, others }) => [stands, ...others].filter(isOne).map(headingOf));
    return;
  }
  if (byHeading(wanted))
    for (const piece of index.headings(instrumentId)) yield piece.filter((h) => !type || h.type === type);
  else {
    const isOne = isWanted(names, wanted);
    for (const piece of index.pieces(instrumentId)) yield piece.filter(isOne).map(headingOf);
  }
}

/** What was looked for last, in which log, and where it lies, the newest first. */
interface Looked {
  log: LogIndex;
  of: string;
  found: Heading[];
}

/** Every instrument that was ever described, those that were taken back too: their entries are still listed. */
const allDescribed = (index: LogIndex): InstrumentRecord[] => [...index.everDescribed(), ...describedIn(index.bench())];

/** Lists entries: what was looked for last is remembered, for its other rows. */
export function createLister(at: LongTask) {
  let looked: Looked | undefined;
  return async ({ wanted, from, count, zone }: Questions['entries']['ask'], id: number): Promise<Listed> => {
    const index = at.index();
    const names = namesIn(allDescribed(index), index.get, zone);
    const of = `${index.count()} ${zone} ${JSON.stringify(wanted)}`;
    if (looked?.log !== index || looked.of !== of) {
      const found: Heading[] = [];
      for (const piece of search(index, names, wanted)) {
        for (const heading of piece) found.push(heading);
        // Chapters have readings alone.
        if (wanted.type && wanted.type !== 'reading') break;
        await at.pause();
        if (at.isDropped(id)) return { found: 0, rows: [] };
      }
      looked = { log: index, of, found: found.sort((a, b) => b.atMs - a.atMs) };
    }
    const instead = new Map(index.contests().flatMap((c) => c.others.map((o) => [o.id, c.stands.id] as const)));
    const rows = looked.found.slice(from, from + count).flatMap((at) => {
      const record = index.get(at.id, at.of);
      if (!record) return [];
      const stands = instead.get(at.id);
      const row = { record, said: sayRecord(record, names), gone: index.isGone(record.id) };
      return [stands === undefined ? row : { ...row, instead: stands }];
    });
    return { found: looked.found.length, rows };
  };
}
