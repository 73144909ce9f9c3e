import { byHeading, headingOf, isWanted, namesIn, sayRecord, type Heading, type LogIndex } from '../../core/log';
import type { Listed, Questions } from './questions';
import type { Task } from './task';

function* mapped<A, B>(all: Iterable<A>, to: (a: A) => B): Generator<B> {
  for (const one of all) yield to(one);
}

/** What was looked for last, in which log, and where it lies, the newest first. */
interface Looked {
  log: LogIndex;
  of: string;
  found: Heading[];
}

/** Lists entries: what was looked for last is remembered, for its other rows. */
export function createLister(at: Task) {
  let looked: Looked | undefined;
  return async ({ wanted, from, count }: Questions['entries']['ask'], id: number): Promise<Listed> => {
    const index = at.index();
    const { instruments, away } = index.bench();
    const names = namesIn([...instruments.map((i) => i.record), ...away], index.get);
    const of = `${index.count()} ${JSON.stringify(wanted)}`;
    if (looked?.log !== index || looked.of !== of) {
      const isOne = isWanted(names, wanted);
      const found: Heading[] = [];
      const { instrumentId, type } = wanted;
      const pieces = byHeading(wanted)
        ? mapped(index.headings(instrumentId), (all) => all.filter((h) => !type || h.type === type))
        : mapped(index.pieces(instrumentId), (all) => all.filter(isOne).map(headingOf));
      for (const piece of pieces) {
        for (const heading of piece) found.push(heading);
        // Chapters have readings alone.
        if (type && type !== 'reading') break;
        await at.pause();
        if (at.isDropped(id)) return { found: 0, rows: [] };
      }
      looked = { log: index, of, found: found.sort((a, b) => b.atMs - a.atMs) };
    }
    const rows = looked.found.slice(from, from + count).flatMap((at) => {
      const record = index.get(at.id, at.of);
      return record ? [{ record, said: sayRecord(record, names), gone: index.isGone(record.id) }] : [];
    });
    return { found: looked.found.length, rows };
  };
}
