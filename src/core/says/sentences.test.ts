import { sentences } from '../../../testing/sentences';

const MOST_WORDS = 25;
/** What no text may hold, and why. */
const NEVER: [string, RegExp][] = [
  ['one is no plural', /(^|[^\d.,])1 cents\b/],
  ['minus zero', /[−-]0(\.0+)?(?![\d.])/],
  ['no doubt at all', /±0(\.0+)?(?![\d.])/],
  ['a dash for a minus', /(^|\s)-\s?\d/],
  ['machine talk', /\b(lambda|sigma|prior|hypothesis|partials?|records?|batch|null|undefined|NaN)\b/],
  ['the code’s words', /\b(visits?|curtain)\b/i],
];

test('no text of the catalogues breaks the rules of words', () => {
  const faults = sentences().flatMap(([room, text]) => {
    const long = text.split(/[.?!:]\s/).some((s) => s.split(/\s+/).length > MOST_WORDS);
    const why = [...NEVER.flatMap(([name, rule]) => (rule.test(text) ? [name] : [])), ...(long ? ['too long'] : [])];
    return why.map((w) => `${w} (${room}): ${text}`);
  });
  expect(faults).toEqual([]);
});
