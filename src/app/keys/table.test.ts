import { KEYS, type KeyLine } from './table';

const linesOf = (view: keyof typeof KEYS) => Object.values(KEYS[view]) as KeyLine[];

test.each(Object.keys(KEYS) as (keyof typeof KEYS)[])('%s: every key does one thing, and the map says what', (view) => {
  const keys = linesOf(view).flatMap((l) => l.keys);
  expect(new Set(keys).size).toBe(keys.length);
  if (view !== 'general')
    for (const general of linesOf('general').flatMap((l) => l.keys)) expect(keys).not.toContain(general);
  for (const { words, shown, keys: own } of linesOf(view)) {
    expect(words).toMatch(/^[A-Z]/);
    expect(shown).not.toBe('');
    // As the pedal looks them up.
    for (const key of own) expect(key.length === 1 ? key.toLowerCase() : key).toBe(key);
  }
});

test('where a pedal can go on it goes on by Page Down', () => {
  for (const view of ['bench', 'octave', 'fitting', 'plan', 'first'] as const) {
    const enter = linesOf(view).find((l) => l.keys.includes('Enter'))!;
    expect(enter.keys).toContain('PageDown');
  }
});
