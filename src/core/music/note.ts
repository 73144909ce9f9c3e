/** A note of twelve-tone equal temperament in scientific pitch notation (A4 is note 69). */
export interface Note {
  letter: string;
  /** -1 flat, 0 natural, +1 sharp */
  accidental: -1 | 0 | 1;
  octave: number;
}

/** Reference pitches the product accepts, Hz: from the lowest historical to the highest modern ones in use. */
export const A4_MIN_HZ = 392;
export const A4_MAX_HZ = 466;

const SEMITONE: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };
const NAMES = ['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'G#', 'A', 'Bb', 'B'];

/**
 * Reads a note name: letter, optional sharp (# or ♯) or flat (b or ♭), octave from -1 to 9. Case of the letter is free.
 * @returns undefined when the text is no note
 * @example parseNote('F#3') // { letter: 'F', accidental: 1, octave: 3 }
 */
export function parseNote(text: string): Note | undefined {
  const m = /^\s*([A-Ga-g])([#♯b♭]?)(-1|[0-9])\s*$/.exec(text);
  if (!m) return undefined;
  const accidental = m[2] === '' ? 0 : m[2] === '#' || m[2] === '♯' ? 1 : -1;
  return { letter: m[1]!.toUpperCase(), accidental, octave: Number(m[3]) };
}

/** Semitones above C-1; A4 is 69. */
export function midiOf(note: Note): number {
  return SEMITONE[note.letter]! + note.accidental + 12 * (note.octave + 1);
}

/** Equal-tempered frequency in Hz of a note for the given A4 in Hz. */
export function noteFrequencyHz(note: Note, a4Hz: number): number {
  return a4Hz * Math.pow(2, (midiOf(note) - 69) / 12);
}

/** Plain text of a note: 'F#3'. */
export function formatNote(note: Note): string {
  return note.letter + (note.accidental === 1 ? '#' : note.accidental === -1 ? 'b' : '') + String(note.octave);
}

/** The equal-tempered note nearest to a frequency, and how far the frequency is from it in cents. */
export function nearestNote(frequencyHz: number, a4Hz: number): { name: string; cents: number } {
  const exact = 69 + 12 * Math.log2(frequencyHz / a4Hz);
  const midi = Math.round(exact);
  return { name: NAMES[((midi % 12) + 12) % 12]! + String(Math.floor(midi / 12) - 1), cents: 100 * (exact - midi) };
}
