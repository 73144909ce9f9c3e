import { chapterOf, createLogIndex, groupBy, type LogRecord, type ReadingRecord } from '../../src/core/log';
import type { Random } from '../../src/core/simulate';

/** What goes wrong where a log's readings are packed and a bit of one chapter flips: none is to be told otherwise, nothing else lost. */
export async function bentChapterFaults(records: readonly LogRecord[], random: Random): Promise<string[]> {
  const packs = (r: LogRecord): r is ReadingRecord => r.type === 'reading' && !r.supersedes;
  const groups = [...groupBy(records.filter(packs), (r) => r.instrumentId).values()];
  if (groups.length === 0) return [];
  const chapters = await Promise.all(groups.map(chapterOf));
  const at = Math.floor(random.uniform() * chapters.length);
  const packed = chapters[at]!.packed.slice();
  packed[Math.floor(random.uniform() * packed.length)]! ^= 1 << Math.floor(8 * random.uniform());
  const index = createLogIndex();
  index.add(
    records.filter((r) => !packs(r)),
    chapters.map((c, i) => (i === at ? { ...c, packed } : c)),
  );
  index.bench().instruments.forEach((i) => i.strings);
  const told = new Map(index.records().map((r) => [`${r.type}/${r.id}`, JSON.stringify(r)]));
  const lost = new Set(index.aside().length > 0 ? groups[at]!.map((r) => `reading/${r.id}`) : []);
  const keyed = records.map((r) => [`${r.type}/${r.id}`, JSON.stringify(r)] as const);
  return keyed.flatMap(([key, text]) => {
    if (lost.has(key)) return told.has(key) ? [`${key} is set aside and told`] : [];
    return told.get(key) === text ? [] : [`${key} is lost or told otherwise`];
  });
}
