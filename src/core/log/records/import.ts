import { counted } from '../../base';
import { mixed } from 'yup';
import { LONGEST_NOTE, MOST_RECORDS } from '../../limits';
import { text } from './fields';
import { recordKind, type RecordOf } from './record';

/** An id has at most 80 characters. */
const LONGEST_IDS = 81 * MOST_RECORDS;
const areIds = (value: unknown): boolean =>
  typeof value === 'string' &&
  value.length <= LONGEST_IDS &&
  /^[A-Za-z0-9_:.-]/.test(value) &&
  !/[^A-Za-z0-9_:.\n-]|\n\n|\n$/.test(value);

/** What came in by one file, to be taken back whole. */
export const imported = recordKind(
  'import',
  {
    file: text(LONGEST_NOTE).required(),
    /** The ids of its records, one a line: a long log has hundreds of thousands. */
    ids: mixed<string>()
      .meta({ surely: areIds })
      .test('ids', '${path} must be ids, one a line', (ids) => ids === undefined || areIds(ids))
      .required(),
  },
  (r) => {
    const n = r.ids.split('\n').length;
    return `Imported ${r.file}: ${counted(n, 'entry', 'entries')}`;
  },
  { file: 'list.csv', ids: 'sample-1\nsample-2' },
);
export type ImportRecord = RecordOf<typeof imported>;
