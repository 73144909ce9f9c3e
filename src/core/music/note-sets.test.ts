import { noteSets } from '.';

const drop = (own: string[]) =>
  noteSets(own)
    .find((s) => s.name.startsWith('Drop'))
    ?.notes.join(' ');

test.each([
  ['E4 B3 G3 D3 A2 E2', 'E4 B3 G3 D3 A2 D2'],
  // The last string of a ukulele, and of a five-string banjo, is its high one.
  ['A4 E4 C4 G4', 'A4 E4 A#3 G4'],
  ['D4 B3 G3 D3 G4', 'D4 B3 G3 C3 G4'],
  // Both strings of the lowest course, the octave too.
  ['E4 E4 B3 B3 G4 G3 D4 D3 A3 A2 E3 E2', 'E4 E4 B3 B3 G4 G3 D4 D3 A3 A2 D3 D2'],
])('%s, the lowest a tone down: %s', (own, dropped) => expect(drop(own.split(' '))).toBe(dropped));

test('of three strings none is dropped', () => expect(drop(['D4', 'A3', 'D3'])).toBeUndefined());
