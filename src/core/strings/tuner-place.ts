import type { FamilyTraits } from './builds';

/** Where the tuner of a string stands. */
export interface TunerPlace {
  words: string;
  /** The side of the head, seen by the player; null where all stand in one row. */
  side: 'treble' | 'bass' | null;
  /** Which one from the nut, or from the long side, on its side or in its row; the first is 1. */
  at: number;
  /** How many stand there. */
  of: number;
}

const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth'];
const ordinal = (n: number) => ORDINALS[n - 1] ?? `${n}th`;

/**
 * The tuner of a string, in words, by the usual way of each build: outer strings go to the tuners nearest the nut (house
 * default; the owner's own words count before it).
 * @param index of the string, the highest first
 */
export function tunerPlace(layout: FamilyTraits['layout'], index: number, count: number): TunerPlace {
  const fromLow = count - index;
  if (layout === 'row') return { words: `pin ${fromLow} from the long side`, side: null, at: fromLow, of: count };
  if (layout === 'line') return { words: `${ordinal(fromLow)} tuner from the nut`, side: null, at: fromLow, of: count };
  const half = Math.ceil(count / 2);
  const treble = index < half;
  const at = treble ? index + 1 : fromLow;
  const side = treble ? 'treble' : 'bass';
  const of = treble ? half : count - half;
  if (layout === 'box') {
    const which = at === 1 ? 'lower peg' : at === of ? 'upper peg' : `${ordinal(at)} peg from the nut`;
    const why = at === of && of > 1 ? ': inner strings go to the upper pegs' : '';
    return { words: `${which}, ${side} side${why}`, side, at, of };
  }
  return { words: `${ordinal(at)} tuner from the nut, ${side} side`, side, at, of };
}
