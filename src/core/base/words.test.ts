import { counted } from './words';

test.each([
  [0, '0 days'],
  [1, '1 day'],
  ['1', '1 day'],
  ['1.0', '1.0 days'],
  [2, '2 days'],
  [21, '21 days'],
])('%s is written %s', (count, words) => {
  expect(counted(count, 'day')).toBe(words);
});

test('a word of its own for many', () => {
  expect([1, 2].map((n) => counted(n, 'entry is', 'entries are'))).toEqual(['1 entry is', '2 entries are']);
});
