import { FAMILIES } from '../../../core/strings';
import { buildOf, freshRow, recordOf, rowsOfFamily, schemaOf, strungMoments, type Fields } from './fields';
import { HOUR } from '../../../core/base';

const NOW = Date.UTC(2026, 5, 12, 12);
const schema = schemaOf(['Viola'], () => NOW, 120);
const good: Fields = {
  name: 'Box zither',
  family: 'own',
  build: buildOf({ family: 'own' }),
  strung: 'now',
  strungAt: '',
  strings: [freshRow({ ...rowsOfFamily('viola')[0]!, tuner: '' })],
};
const faultOf = (change: Partial<Fields>) => {
  try {
    schema.validateSync({ ...good, ...change });
    return '';
  } catch (error) {
    return (error as Error).message;
  }
};
const string = (change: object) => ({ strings: [{ ...good.strings[0]!, ...change }] });

test.each<[string, object, RegExp]>([
  ['no name', { name: '' }, /Give the instrument a name/],
  ['a name that another has', { name: 'Viola' }, /an instrument of this name already/],
  ['a name too long', { name: 'x'.repeat(61) }, /longer than/],
  ['no strings', { strings: [] }, /at least one string/],
  ['too many strings', { strings: Array.from({ length: 61 }, () => good.strings[0]) }, /at most sixty/],
  ['no note', string({ note: '' }), /Give the note/],
  ['a note that is none', string({ note: 'H4' }), /letter, # or b/],
  ['a length that is none', string({ lengthMm: NaN }), /speaking length/],
  ['a length too short', string({ lengthMm: 20 }), /80 mm or more/],
  ['a gauge that is none', string({ gaugeMm: NaN }), /0.25, .010 or 10/],
  ['a tuner without end', string({ tuner: 'x'.repeat(61) }), /longer than/],
  ['strung when nobody says', { strung: 'earlier', strungAt: '' }, /Say when/],
  ['strung tomorrow', { strung: 'earlier', strungAt: '2026-06-13T12:00' }, /in the future/],
  ['strung in another age', { strung: 'earlier', strungAt: '1900-01-01T00:00' }, /from 1970/],
  ['one string of tomorrow', string({ strungAt: '2026-06-13T12:00' }), /in the future/],
  ['a day that is none', string({ strungAt: 'soon' }), /day and the time/],
])('%s is said in a sentence', (_, change, sentence) => {
  expect(faultOf({})).toBe('');
  expect(faultOf(change)).toMatch(sentence);
});

test('every family’s usual set is sound as it stands', () => {
  for (const { code, name } of FAMILIES)
    expect(faultOf({ family: code, name, build: buildOf({ family: code }), strings: rowsOfFamily(code) })).toBe(
      name === 'Viola' ? 'There is an instrument of this name already. Choose another name.' : '',
    );
});

test('strings strung at different times, a build of its own, a tuner in its owner’s words', () => {
  const f: Fields = {
    ...good,
    strung: 'each',
    build: { ...good.build, tuner: 'pin' },
    strings: [
      { ...good.strings[0]!, stringId: 'a', strungAt: '2026-06-12T13:00', tuner: 'pin by the rose' },
      { ...good.strings[0]!, stringId: 'b' },
    ],
  };
  expect(strungMoments(f, NOW, 120)).toEqual([{ stringId: 'a', atMs: NOW - HOUR }]);
  expect(strungMoments({ ...f, strung: 'now' }, NOW, 120)).toHaveLength(2);
  expect(strungMoments({ ...f, strung: 'same' }, NOW, 120)).toEqual([]);
  const record = recordOf(f, 'z', undefined);
  expect(record.build).toMatchObject({ tuner: 'pin' });
  expect(record.strings.map((s) => s.tuner)).toEqual(['pin by the rose', undefined]);
  // What is the family's own is not repeated.
  expect(recordOf(good, 'z', undefined).build).toBeUndefined();
});

test('a packet’s unit mass stays with its gauge', () => {
  const before = { strings: [{ stringId: 'a', gaugeMm: 0.4, unitMassKgPerM: 0.001 }] } as never;
  const of = (gaugeMm: number) =>
    recordOf({ ...good, strings: [{ ...good.strings[0]!, stringId: 'a', gaugeMm }] }, 'z', before).strings[0]!;
  expect(of(0.4).unitMassKgPerM).toBe(0.001);
  expect(of(0.5).unitMassKgPerM).toBeUndefined();
});
