import { MOST_OFF_CENTS } from '../limits';
import { cents, nearestNote, plusMinus, ratioOfCents } from '../music';
import { awayWords, HOME_CENTS, type FigurePlace } from './identify';

/** Standard error given to a figure typed from another device, cents (house estimate). */
const TYPED_SIGMA = 1;
/** A typed figure stays as it was typed: without what the arithmetic left behind. */
const TYPED_DIGITS = 6;

/** A figure as the log keeps it. */
export interface FigureRead {
  frequencyHz: number;
  /** From where the string belongs. */
  cents: number;
  sigmaCents: number;
}

/** What a typed figure comes to. */
export type Typed =
  | ({ is: 'reading' } & FigureRead)
  /** Far from where the string is expected: it is a reading when the player says so again. */
  | ({ is: 'question'; message: string } & FigureRead)
  | { is: 'refused'; message: string };

const OCTAVE_CENTS = 1200;
const FIGURE = /^\s*([+\-−]?\d+(?:[.,]\d+)?)\s*(hz|¢|c|cents?)?\s*$/i;

export const TYPED_LABEL = 'Cents from the target, or Hz';
export const TYPED_HELP = `It is saved as typed, with ${plusMinus(TYPED_SIGMA)} cents. A figure alone is cents. For a frequency write Hz after it.`;
const TYPED_WRONG =
  'Write cents from the target, for example −6.3, or a frequency, for example 328.4 Hz, within an octave.';

/**
 * The one rule of a figure that a person writes: cents from where the string belongs ('−6.3', '+4 cents') or hertz ('328.4 Hz').
 * House rule: within MOST_OFF_CENTS of the string's place, asked about beyond HOME_CENTS from where it is expected now.
 * @param a4Hz the reference in use, Hz
 */
export function readTyped(text: string, place: FigurePlace, a4Hz: number): Typed {
  const m = FIGURE.exec(text);
  const value = m ? Number(m[1]!.replace('−', '-').replace(',', '.')) : NaN;
  const isHz = m?.[2]?.toLowerCase() === 'hz';
  const off = isHz ? (value > 0 ? cents(value, place.belongsHz) : NaN) : value;
  if (!(Math.abs(off) <= MOST_OFF_CENTS)) return { is: 'refused', message: TYPED_WRONG };
  const frequencyHz = isHz ? value : place.belongsHz * ratioOfCents(off);
  const read: FigureRead = { frequencyHz, cents: Number(off.toFixed(TYPED_DIGITS)), sigmaCents: TYPED_SIGMA };
  if (place.sure || Math.abs(cents(frequencyHz, place.expectedHz)) <= HOME_CENTS) return { is: 'reading', ...read };
  const mayBeHz = m?.[2] === undefined && value > 0 && Math.abs(cents(value, place.belongsHz)) < OCTAVE_CENTS;
  const unit = mayBeHz ? ' If it is a frequency, write Hz after it.' : '';
  const near = nearestNote(frequencyHz, a4Hz).name;
  return {
    is: 'question',
    message: `${awayWords(place, frequencyHz)}, near ${near}.${unit} Save it again if it is right.`,
    ...read,
  };
}
