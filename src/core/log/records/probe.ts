import { isTold, MEASURES, TESTS, type Told } from '../../codes';
import { MOST_CENTS } from '../../limits';
import { signedCents } from '../../music';
import { mixed } from 'yup';
import { centsField, id, oneOf, sigma } from './fields';
import { ofString, recordKind, type RecordOf } from './record';

/** One test about why a string does not stay: changes of its pitch by what was done, twice; or a measure taken the same way. */
export const test = recordKind(
  'test',
  {
    ...ofString,
    /** The inquiry that it belongs to. */
    passId: id().required(),
    test: oneOf([...TESTS, ...MEASURES]).required(),
    firstCents: centsField().required(),
    secondCents: centsField().nullable().defined(),
    /** What the string beside it did at the first. */
    othersCents: centsField().optional(),
    sigmaCents: sigma(MOST_CENTS).required(),
    /** What the player was asked and said, in this inquiry. */
    told: mixed<Told>().test('told', '${path} is no answer to what is asked', (v) => v === undefined || isTold(v)),
  },
  (r, names) => {
    const of = names.string(r.instrumentId, r.stringId);
    if (r.test === 'friction')
      return `${of}: friction ${((r.secondCents ?? 0) - r.firstCents).toFixed(1)} cents between its limits`;
    const then = r.secondCents === null ? '' : `, then ${signedCents(r.secondCents)}`;
    return `${of}: test ${r.test.replaceAll('-', ' ')}, ${signedCents(r.firstCents)}${then} cents`;
  },
  {
    instrumentId: 'x',
    stringId: 's1',
    passId: 'p3',
    test: 'big-bend',
    firstCents: -4,
    secondCents: -3.5,
    othersCents: 0.2,
    sigmaCents: 0.4,
  },
);
export type TestRecord = RecordOf<typeof test>;
