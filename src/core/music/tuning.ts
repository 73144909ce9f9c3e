import { offsetWords } from './cents';
import { formatNote, midiOf, parseNote } from './note';
import { targetFrequencyHz } from './target';

/** Where a string is to stand: a note, and how far beside its equal-tempered place, cents. */
export interface StringTarget {
  note: string;
  offsetCents?: number;
}

/** Target of a string in Hz, with its own offset, for the given A4; undefined where its note is none. */
export function stringTargetHz({ note, offsetCents = 0 }: StringTarget, a4Hz: number): number | undefined {
  const hz = targetFrequencyHz(note, a4Hz);
  return hz === undefined ? undefined : hz * Math.pow(2, offsetCents / 1200);
}

/** The pure fifth, cents: 1200 log2(3/2). */
const FIFTH = 1200 * Math.log2(1.5);
const A = 9;
const pitchClass = (note: string): number => midiOf(parseNote(note)!) % 12;

/**
 * Fifths from the A outward, each narrowed by so much from pure: offsets from equal temperament, cents; the A keeps the reference.
 * @example fifthsOffsets(['C3', 'G3', 'D4', 'A4'], 0) // [-5.9, -3.9, -2.0, 0]
 */
export function fifthsOffsets(notes: readonly string[], narrowCents: number): number[] {
  return notes.map((note) => {
    // Steps on the circle of fifths from A, five down to six up.
    const steps = ((((pitchClass(note) - A) * 7) % 12) + 12 + 5) % 12;
    return (steps - 5) * (FIFTH - 700 - narrowCents);
  });
}

/** Five-limit just ratios over the tonic, by semitone (the usual diatonic ones and their chromatic neighbours). */
const JUST: [number, number][] = [
  [1, 1],
  [16, 15],
  [9, 8],
  [6, 5],
  [5, 4],
  [4, 3],
  [45, 32],
  [3, 2],
  [8, 5],
  [5, 3],
  [9, 5],
  [15, 8],
];

/** Just on a tonic: offsets from equal temperament, cents; the A keeps the reference. @param tonic pitch class, 0 for C */
export function justOffsets(notes: readonly string[], tonic: number): number[] {
  const off = (pc: number) => {
    const step = (((pc - tonic) % 12) + 12) % 12;
    const [p, q] = JUST[step]!;
    return 1200 * Math.log2(p / q) - 100 * step;
  };
  return notes.map((note) => off(pitchClass(note)) - off(A));
}

/** The same note so many semitones higher; flats stay flats. */
export function transpose(note: string, semitones: number): string {
  const midi = midiOf(parseNote(note)!) + semitones;
  const names = note.includes('b') || note.includes('♭') ? FLATS : SHARPS;
  return `${names[((midi % 12) + 12) % 12]!}${Math.floor(midi / 12) - 1}`;
}
const SHARPS = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'];
const FLATS = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B'];

/** Consonances by semitone within the octave: the pure ratio, its name, and whose chord shows it: the lower note's or the upper one's. */
const CONSONANCES: Record<number, { ratio: [number, number]; name: string; root: 'lower' | 'upper'; chord: string }> = {
  3: { ratio: [6, 5], name: 'minor third', root: 'lower', chord: 'minor' },
  4: { ratio: [5, 4], name: 'major third', root: 'lower', chord: 'major' },
  5: { ratio: [4, 3], name: 'fourth', root: 'upper', chord: 'major' },
  7: { ratio: [3, 2], name: 'fifth', root: 'lower', chord: 'major' },
  8: { ratio: [8, 5], name: 'minor sixth', root: 'upper', chord: 'major' },
  9: { ratio: [5, 3], name: 'major sixth', root: 'upper', chord: 'minor' },
};

/** What a tuning costs. */
export interface TuningCost {
  /** The interval between two strings that stands furthest from pure; undefined where no two make a consonance. */
  worst: { a: string; b: string; interval: string; cents: number; chord: string } | undefined;
  /** The string furthest from its equal-tempered place, as a keyboard has it. */
  furthest: { note: string; cents: number };
}

/** The interval that stands furthest from pure among the strings, the chord that shows it, and what a keyboard would find furthest off. */
export function tuningCost(strings: readonly StringTarget[]): TuningCost {
  const at = strings.map((s) => ({ ...s, midi: midiOf(parseNote(s.note)!), off: s.offsetCents ?? 0 }));
  let worst: TuningCost['worst'];
  let most = -1;
  for (const low of at)
    for (const high of at) {
      if (high.midi <= low.midi) continue;
      const kind = CONSONANCES[(high.midi - low.midi) % 12];
      if (!kind) continue;
      const step = (high.midi - low.midi) % 12;
      const cents = 100 * step + high.off - low.off - 1200 * Math.log2(kind.ratio[0] / kind.ratio[1]);
      // Of two as far off the fifth is heard first.
      const heard = Math.abs(cents) + (step === 7 || step === 5 ? 0.01 : 0);
      if (heard <= most + 1e-6) continue;
      most = heard;
      const root = kind.root === 'lower' ? low.note : high.note;
      worst = {
        a: formatNote(parseNote(low.note)!),
        b: formatNote(parseNote(high.note)!),
        interval: kind.name,
        cents,
        chord: `${root.replace(/\d+$/, '')} ${kind.chord}`,
      };
    }
  const far = [...at].sort((a, b) => Math.abs(b.off) - Math.abs(a.off))[0]!;
  return { worst, furthest: { note: far.note, cents: far.off } };
}

/** How the places of the notes are found. `tonic` is a pitch class, 0 for C. */
export type Temper =
  | { kind: 'equal' }
  | { kind: 'fifths'; narrowCents: number }
  | { kind: 'just'; tonic: number }
  | { kind: 'own'; offsets: readonly number[] };

/** Offsets of notes from equal temperament in cents, by a temper. */
export function temperOffsets(notes: readonly string[], temper: Temper): number[] {
  switch (temper.kind) {
    case 'equal':
      return notes.map(() => 0);
    case 'fifths':
      return fifthsOffsets(notes, temper.narrowCents);
    case 'just':
      return justOffsets(notes, temper.tonic);
    case 'own':
      return notes.map((_, i) => temper.offsets[i] ?? 0);
  }
}

/** A string is let down by no more than this for an open chord, semitones. */
const LET_DOWN = 2;

/** Open major chords that a set can be let down to, by root: the lowest string takes the root or the fifth. */
export function openChords(notes: readonly string[]): { root: string; notes: string[] }[] {
  const midis = notes.map((n) => midiOf(parseNote(n)!));
  const low = midis.indexOf(Math.min(...midis));
  return SHARPS.flatMap((root, pc) => {
    const downs = notes.map((note) =>
      [0, 1, LET_DOWN].find((by) => [0, 4, 7].includes((pitchClass(note) - by - pc + 24) % 12)),
    );
    if (downs.some((d) => d === undefined)) return [];
    const tuned = notes.map((note, i) => transpose(note, -downs[i]!));
    const over = tuned.map((n) => (pitchClass(n) - pc + 12) % 12);
    return over[low] !== 4 && over.includes(4) ? [{ root, notes: tuned }] : [];
  });
}

/** What a tuning costs where it is furthest from pure. @param cents from pure, wide positive */
export const costWords = ({ interval, a, b, cents, chord }: NonNullable<TuningCost['worst']>): string =>
  `The furthest from pure: the ${interval} from ${a} to ${b}, ${offsetWords(cents)}; ${chord} shows it.`;
/** How a string stands against a keyboard. @param cents sharp positive */
export const keyboardWords = (note: string, cents: number): string =>
  Math.abs(cents) < 0.05
    ? 'Every string agrees with a keyboard.'
    : `Against a keyboard, ${note} is ${offsetWords(cents)}.`;
/** Where a string is to stand beside its note. @param cents sharp positive */
export const besideWords = (cents: number): string => `${offsetWords(cents)} beside equal temperament`;
