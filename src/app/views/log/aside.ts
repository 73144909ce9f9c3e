import { counted } from '../../../core/base';
import { isChapter, withBytes, type InstrumentRecord } from '../../../core/log';
import type { Damaged } from '../../store/database';

const piecesOf = (n: number) => `${counted(n, 'stored piece')} of this log`;

/** What is said of what could not be read: readings by their instruments, where their heads tell. @param named all instruments */
export function asideWords(damaged: readonly Damaged[], named: readonly InstrumentRecord[]): string {
  const counts = new Map<string, number>();
  let pieces = 0;
  for (const { value } of damaged) {
    if (isChapter(value)) counts.set(value.instrumentId, (counts.get(value.instrumentId) ?? 0) + value.atMs.length);
    else pieces++;
  }
  const readings = [...counts].map(([id, n]) => {
    const name = named.find((r) => r.instrumentId === id)?.name;
    return `${n} readings${name ? ` of ${name}` : ''}`;
  });
  const all = [...readings, ...(pieces > 0 ? [piecesOf(pieces)] : [])].join(' and ');
  return `${all} could not be read: set aside, not dropped. Everything else is as it was. A backup may still have them: import it here.`;
}

/** What could not be read, as a file for whoever can. */
export const asideFile = (damaged: readonly Damaged[]): string => JSON.stringify(damaged, withBytes, 1);
