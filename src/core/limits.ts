/** What any figure, text or file may be, in one place for records, forms and the door (house limits). */

/** Instants, ms since 1970: to the end of 2199. */
export const EARLIEST_MS = 0;
export const LATEST_MS = Date.UTC(2200, 0, 1) - 1;
/** Frequencies, Hz. */
export const LEAST_HZ = 1;
export const MOST_HZ = 20000;
/** Offsets, cents: five octaves. */
export const MOST_CENTS = 6000;
/** A standard error, cents: nothing is known better than this. */
export const LEAST_SIGMA_CENTS = 1e-3;
/** A claw is not followed further than this in one session, turns in all. */
export const MOST_CLAW_TURNS = 8;
/** A typed or corrected reading lies within an octave and a bit of its target, cents. */
export const MOST_OFF_CENTS = 1300;
export const LEAST_TOLERANCE_CENTS = 0.5;
export const MOST_TOLERANCE_CENTS = 50;
/** Rooms, deg C. */
export const COLDEST_C = -40;
export const WARMEST_C = 60;
/** A show's length, min. */
export const LONGEST_SHOW_MIN = 1440;
/** So many people tune at most. */
export const MOST_HANDS = 9;
/** A string is left above its target by no more than this, cents. */
export const MOST_LEAD_CENTS = 20;
/** Spans of time in questions to the door, min: nineteen years. */
export const LONGEST_SPAN_MIN = 1e7;
export const MOST_STRINGS = 60;
/** Steps of a practised job. */
export const MOST_ACTS = 2000;
export const LONGEST_NAME = 60;
export const LONGEST_NOTE = 400;

/** A record's place in the order of writing: room is left for as many again. */
export const MOST_SEQ = 1e12;

/** A file of records: characters, records, and how deep its lists and objects go. */
export const LARGEST_FILE = 500e6;
export const FILE_TOO_LARGE = `The file is larger than ${LARGEST_FILE / 1e6} MB.`;
export const MOST_RECORDS = 600000;
export const DEEPEST = 32;
/** A recording: bytes. */
export const LARGEST_WAV = 500e6;
/** Any number that anybody may hand in. */
export const LARGEST_NUMBER = 1e15;
/** A refusal says what is wrong in at most so many characters. */
export const LONGEST_REFUSAL = 300;

/** A sentence cut to the length of a refusal. */
export const brief = (sentence: string): string =>
  sentence.length <= LONGEST_REFUSAL ? sentence : `${sentence.slice(0, LONGEST_REFUSAL - 2)} …`;

/**
 * Is a JSON text nested deeper than any record, form or question? Strings are passed over; the text need not be JSON.
 */
export function nestedTooDeep(text: string, deepest = DEEPEST): boolean {
  let depth = 0;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (c === 0x22) {
      for (i++; i < text.length && text.charCodeAt(i) !== 0x22; i++) if (text.charCodeAt(i) === 0x5c) i++;
    } else if (c === 0x5b || c === 0x7b) {
      if (++depth > deepest) return true;
    } else if (c === 0x5d || c === 0x7d) depth--;
  }
  return false;
}

/** A number too large to reckon with, anywhere in a value read from JSON. */
export function hasHugeNumber(value: unknown): boolean {
  if (typeof value === 'number') return !(Math.abs(value) <= LARGEST_NUMBER);
  if (typeof value !== 'object' || value === null) return false;
  return Object.values(value).some(hasHugeNumber);
}

/** A string's own offset from equal temperament, cents; and the fret of a capo. */
export const MOST_OFFSET_CENTS = 50;
export const MOST_CAPO = 12;
