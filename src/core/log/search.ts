import { localDay } from '../base';
import { partOf } from './parts';
import { sayRecord, type LogRecord, type Names, type RecordType } from './records';

/** What of a log is looked for; what is missing is not asked. */
export interface Search {
  instrumentId?: string | undefined;
  stringId?: string | undefined;
  type?: RecordType | undefined;
  /** Days in local time, 'YYYY-MM-DD', both counted in. */
  from?: string | undefined;
  to?: string | undefined;
  /** Those alone that were corrected differently on several devices. */
  differ?: boolean | undefined;
  /** Every word of it stands in the record's sentence. */
  text?: string | undefined;
}

const stringsOf = (r: LogRecord): readonly string[] =>
  'stringIds' in r ? r.stringIds : 'stringId' in r && r.stringId ? [r.stringId] : [];

/** Whether a record is one that is looked for. */
export function isWanted(names: Names, wanted: Search): (r: LogRecord) => boolean {
  const { instrumentId, stringId, type, from, to, text } = wanted;
  const words = (text ?? '').toLowerCase().split(/\s+/).filter(Boolean);
  return (r) =>
    (!instrumentId || partOf(r) === instrumentId) &&
    (!stringId || stringsOf(r).includes(stringId)) &&
    (!type || r.type === type) &&
    (!from || localDay(r.atMs, r.zoneMin) >= from) &&
    (!to || localDay(r.atMs, r.zoneMin) <= to) &&
    (words.length === 0 || hasAll(sayRecord(r, names).toLowerCase(), words));
}

/** Whether headings alone tell what is looked for. */
export const byHeading = ({ stringId, from, to, text }: Search): boolean => !stringId && !from && !to && !text?.trim();

const hasAll = (sentence: string, words: readonly string[]) => words.every((w) => sentence.includes(w));
