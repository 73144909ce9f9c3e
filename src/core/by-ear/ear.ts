import type { EarSchool } from '../codes';
import { cents, midiOf, parseNote, ratioOfCents } from '../music';

/** What is sounded on a string: open (fret 0), stopped at a fret, or a harmonic with the place where it is touched. */
export type EarSound =
  { string: number; fret: number } | { string: number; harmonic: { fret: number; partial: number } };

export interface EarStep {
  /** The string that is tuned in this step; strings count from 1 as given. */
  tune: number;
  sound: EarSound;
  against: EarSound;
  /** The pure interval to be heard: pitch of `sound` over pitch of `against`. */
  interval: [number, number];
  /** How far the two stand from it when both strings are at their equal-tempered targets, cents. */
  expectCents: number;
  /** Beats a second of the lowest pair of partials that meets, by how far the string stands from its target. */
  beats: { cents: number; hz: number }[];
}
export interface EarRound {
  steps: EarStep[];
  /** Standard deviation of every string's error from the anchor, cents, by the string's number. */
  chainSd: Record<string, number>;
}

/** A judgement by ear, cents (assumed until an ear is known). */
export const EAR_SD = 2;
const BEATS_AT = [-10, -3, -1, 1, 3, 10];
/** Frets are wanted up to here, partials from 2 to here. */
const USUAL_FRET = 12;
const PARTIALS = [2, 3, 4];
/** What lies within this of the pure interval can be heard as such, cents. */
const PURE_CENTS = 5;
/** Pure intervals that are judged by ear, simple ones first. */
const PURE: [number, number][] = [
  [1, 1],
  [2, 1],
  [3, 2],
  [4, 3],
  [3, 1],
  [4, 1],
  [8, 3],
  [6, 1],
  [8, 1],
];
/** A banjo's short string begins at this fret of the neck. */
const SHORT_FROM = 5;

interface Place {
  sound: EarSound;
  /** Semitones of its pitch, and what the string's own pitch is multiplied with. */
  midi: number;
  kind: 'open' | 'fret' | 'harmonic';
  cost: number;
}

/** Is a string a banjo's short one: at the end of five, above all others, beside the lowest? */
function shortString(midi: readonly number[]): number | undefined {
  if (midi.length !== 5) return undefined;
  const ends: [number, number][] = [
    [0, 1],
    [4, 3],
  ];
  return ends.find(
    ([end, next]) =>
      midi.every((m, i) => i === end || m < midi[end]!) && midi.every((m, i) => i === next || m > midi[next]!),
  )?.[0];
}

/** The strings by their pitches, the fret of the neck at which each begins, and how many frets there are. */
interface Neck {
  midi: readonly number[];
  starts: readonly number[];
  frets: number;
}

/** Every sound that a string gives; frets count from the neck's nut. */
function placesOf({ midi, starts, frets }: Neck, index: number, far: boolean): Place[] {
  const string = index + 1;
  const open = midi[index]!;
  const from = starts[index]!;
  const last = Math.min(frets, far ? frets : USUAL_FRET);
  const stopped = Array.from({ length: Math.max(0, last - from) }, (_, k): Place => {
    const fret = from + k + 1;
    return {
      sound: { string, fret },
      midi: open + k + 1,
      kind: 'fret',
      cost: 1 + 0.05 * (k + 1) + (fret > USUAL_FRET ? 20 : 0),
    };
  });
  const harmonics = PARTIALS.map((partial): Place => {
    // Touched at the node next to the end: 12 log2(k / (k - 1)) semitones up.
    const fret = from + Math.round(12 * Math.log2(partial / (partial - 1)));
    return {
      sound: { string, harmonic: { fret, partial } },
      midi: open + 12 * Math.log2(partial),
      kind: 'harmonic',
      cost: 1.5 + 0.1 * partial,
    };
  });
  return [{ sound: { string, fret: 0 }, midi: open, kind: 'open', cost: 0 }, ...stopped, ...harmonics];
}

interface Candidate {
  sound: Place;
  against: Place;
  interval: [number, number];
  expectCents: number;
  cost: number;
}

/** The pure interval nearest to a difference of pitch; undefined where none is near. */
function pureNear(semitones: number): { interval: [number, number]; expectCents: number; rank: number } | undefined {
  for (const [rank, [p, q]] of PURE.entries()) {
    for (const interval of [
      [p, q],
      [q, p],
    ] as [number, number][]) {
      const expectCents = 100 * semitones - cents(interval[0], interval[1]);
      if (Math.abs(expectCents) < PURE_CENTS) return { interval, expectCents, rank };
    }
  }
  return undefined;
}

const powerOfTwo = (n: number): boolean => Math.log2(n) % 1 === 0;
const isOctave = ([p, q]: [number, number]) => p !== q && powerOfTwo(p) && powerOfTwo(q);
const isFifth = ([p, q]: [number, number]) => (p % 3 === 0) !== (q % 3 === 0);

/** May this pair of sounds stand in a school? @param same both strings are of one note */
function allowed(
  school: EarSchool,
  a: Place,
  b: Place,
  interval: [number, number],
  same: boolean,
  fretted: boolean,
): boolean {
  const unison = interval[0] === interval[1];
  switch (school) {
    case 'chain':
      // Fret against open; without frets an open string against the next.
      return (
        (!fretted && a.kind === 'open' && b.kind === 'open') ||
        (a.kind !== 'harmonic' &&
          b.kind !== 'harmonic' &&
          (a.kind === 'open' || b.kind === 'open') &&
          (unison || isOctave(interval)))
      );
    case 'harmonics':
      return a.kind === 'harmonic' || b.kind === 'harmonic';
    case 'octaves':
      return isOctave(interval) || (unison && same);
    case 'fifths':
      return isFifth(interval);
    case 'anchor':
      return true;
  }
}

/** Checkpoints of one string against another, the best first. */
function checkpoints(school: EarSchool, neck: Neck, tune: number, other: number): Candidate[] {
  const { midi, frets } = neck;
  const found = (far: boolean) => {
    const list: Candidate[] = [];
    for (const sound of placesOf(neck, tune, far))
      for (const against of placesOf(neck, other, far)) {
        const near = pureNear(sound.midi - against.midi);
        if (!near || !allowed(school, sound, against, near.interval, midi[tune] === midi[other], frets > 0)) continue;
        const both = sound.kind !== 'open' && against.kind !== 'open' ? 1.5 : 0;
        // A pair of harmonics is what that school is about.
        const pair = school === 'harmonics' && sound.kind === 'harmonic' && against.kind === 'harmonic' ? -3.5 : 0;
        // A chain is of unisons while a fret up to the twelfth gives one; where harmonics are wanted, open strings beside them.
        const wanted =
          school === 'chain' ? (near.rank > 0 ? 15 : 0) : school === 'harmonics' && both + pair >= 0 ? 3 : 0;
        const cost =
          wanted + sound.cost + against.cost + both + pair + 0.9 * near.rank + 0.1 * Math.abs(near.expectCents);
        list.push({ sound, against, interval: near.interval, expectCents: near.expectCents, cost });
      }
    return list.sort((p, q) => p.cost - q.cost);
  };
  const usual = found(false);
  return usual.length > 0 || frets <= USUAL_FRET ? usual : found(true);
}

/** Steps between strings cost: neighbours first; in octaves the one after the next. */
const distanceCost = (school: EarSchool, tune: number, other: number): number => {
  const apart = Math.abs(tune - other);
  return school === 'octaves' ? 0.4 * Math.abs(apart - 2) : (school === 'chain' ? 4 : 1.2) * (apart - 1);
};

function stepOf(tune: number, { sound, against, interval, expectCents }: Candidate, a4Hz: number): EarStep {
  const [p, q] = interval;
  const hz = (place: Place) => a4Hz * 2 ** ((place.midi - 69) / 12);
  return {
    tune: tune + 1,
    sound: sound.sound,
    against: against.sound,
    interval,
    expectCents,
    beats: BEATS_AT.map((off) => ({ cents: off, hz: Math.abs(q * hz(sound) * ratioOfCents(off) - p * hz(against)) })),
  };
}

/** The string that a round begins with where nobody says: an A, or the first. */
const usualAnchor = (notes: readonly string[]): number =>
  Math.max(
    0,
    notes.findIndex((n) => /^A[0-9]/i.test(n)),
  );

export type EarOutcome = { ok: true; round: EarRound } | { ok: false; message: string };

/**
 * A round of tuning by ear: how every string is tuned from those that are tuned already.
 * @param notes notes of the strings in their order, A4 a4Hz
 * @param frets how many frets there are; 0 for none
 * @param anchor the string that is tuned first, by its index; an A or the first where it is not said
 * @param starts at which fret of the neck each string begins; where it is not said, at its nut, and a banjo's short string at the fifth
 */
export function earRound(
  notes: readonly string[],
  school: EarSchool,
  frets: number,
  a4Hz: number,
  anchor: readonly number[] = [usualAnchor(notes)],
  starts?: readonly number[],
): EarOutcome {
  const midi = notes.map((n) => midiOf(parseNote(n)!));
  const short = frets > 0 ? shortString(midi) : undefined;
  const neck = { midi, frets, starts: starts ?? midi.map((_, i) => (i === short ? SHORT_FROM : 0)) };
  const no = (index: number): EarOutcome => ({
    ok: false,
    message: `String ${index + 1} (${notes[index]}) cannot be tuned by ${school} on this instrument.`,
  });
  // Of several strings of the anchor's note any serves: the one by which the round can be had.
  for (const first of anchor) {
    const round = school === 'anchor' ? fromAnchor(first, neck, a4Hz) : fromTuned(school, first, neck, a4Hz);
    if ('steps' in round) return { ok: true, round };
    if (first === anchor[anchor.length - 1]) return no(round.stuck);
  }
  return no(0);
}

/** Every string against one: two checkpoints each, of different places. */
function fromAnchor(anchor: number, neck: Neck, a4Hz: number): EarRound | { stuck: number } {
  const chainSd: EarRound['chainSd'] = { [anchor + 1]: 0 };
  const steps: EarStep[] = [];
  const others = neck.midi.map((_, i) => i).filter((i) => i !== anchor);
  for (const tune of others.sort((a, b) => Math.abs(a - anchor) - Math.abs(b - anchor))) {
    const list = checkpoints('anchor', neck, tune, anchor);
    const [best] = list;
    // The second one does not repeat what the first one sounds, on either string if that can be.
    const second =
      list.find((c) => !sameSound(c, best!, 'sound') && !sameSound(c, best!, 'against')) ??
      list.find((c) => c !== best && (!sameSound(c, best!, 'sound') || !sameSound(c, best!, 'against')));
    if (!best || !second) return { stuck: tune };
    steps.push(stepOf(tune, best, a4Hz), stepOf(tune, second, a4Hz));
    chainSd[tune + 1] = EAR_SD / Math.SQRT2;
  }
  return { steps, chainSd };
}
const sameSound = (a: Candidate, b: Candidate, which: 'sound' | 'against') =>
  JSON.stringify(a[which].sound) === JSON.stringify(b[which].sound);

/** Every string from one that is tuned already, the cheapest step first (Prim 1957). */
function fromTuned(school: EarSchool, anchor: number, neck: Neck, a4Hz: number): EarRound | { stuck: number } {
  const { midi } = neck;
  const tuned = new Map([[anchor, 0]]);
  const steps: EarStep[] = [];
  const known = new Map<string, Candidate | undefined>();
  const bestOf = (tune: number, other: number) => {
    const key = `${tune}:${other}`;
    if (!known.has(key)) known.set(key, checkpoints(school, neck, tune, other)[0]);
    return known.get(key);
  };
  while (tuned.size < midi.length) {
    const left = midi.map((_, i) => i).filter((i) => !tuned.has(i));
    const choices = left.flatMap((tune) =>
      [...tuned.keys()].flatMap((other) => {
        const best = bestOf(tune, other);
        return best ? [{ tune, other, best, cost: best.cost + distanceCost(school, tune, other) }] : [];
      }),
    );
    const [next] = choices.sort((a, b) => a.cost - b.cost);
    if (!next) return { stuck: left[0]! };
    steps.push(stepOf(next.tune, next.best, a4Hz));
    tuned.set(next.tune, tuned.get(next.other)! + EAR_SD ** 2);
  }
  const chainSd = Object.fromEntries([...tuned].map(([i, variance]) => [String(i + 1), Math.sqrt(variance)]));
  return { steps, chainSd };
}
