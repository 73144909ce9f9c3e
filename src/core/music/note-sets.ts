import { midiOf, parseNote } from './note';
import { openChords, transpose } from './tuning';

/** A way to change the notes, in our words. */
export interface NoteSet {
  name: string;
  notes: string[];
}

/** Do neighbours sound together, in unison or an octave apart, two by two? */
export const isCourses = (notes: readonly string[]): boolean =>
  notes.length % 2 === 0 &&
  notes.every((n, i) => (midiOf(parseNote(n)!) - midiOf(parseNote(notes[i ^ 1]!)!)) % 12 === 0);

/** Sets of notes that one goes to from an instrument's own. */
export function noteSets(own: readonly string[]): NoteSet[] {
  const lower = (by: number) => own.map((n) => transpose(n, -by));
  const sets: NoteSet[] = [
    { name: 'Its own notes', notes: [...own] },
    { name: 'A half step down', notes: lower(1) },
    { name: 'A whole step down', notes: lower(2) },
  ];
  // The lowest by its pitch, wherever it lies, with what sounds in a course with it.
  const lowest = own.reduce((low, n) => (midiOf(parseNote(n)!) < midiOf(parseNote(low)!) ? n : low), own[0]!);
  const at = own.indexOf(lowest);
  const inCourse = (i: number) => i === at || (isCourses(own) && i === (at ^ 1));
  if (own.length > 3)
    sets.push({
      name: 'Drop: lowest string a tone down',
      notes: own.map((n, i) => (inCourse(i) ? transpose(n, -2) : n)),
    });
  for (const { root, notes } of openChords(own)) sets.push({ name: `Open ${root}`, notes });
  return sets;
}
