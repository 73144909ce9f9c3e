import { MOVED_CENTS } from './motion';
import { type Figure, arrivalOf, type Approach } from './approach';

/** A doubt above this share of the tolerance is told: in a loud room, and elsewhere. */
const DOUBT_SHARE = 0.3;
const UNSETTLED_SHARE = 0.5;
/** What was read and what the trace shows agree within this beside their doubts, cents. */
const AGREE_CENTS = 0.8;

export interface AtRest {
  /** Where it stands with its doubt, cents from the line it is to be left at. */
  cents: number;
  sigmaCents: number;
  way: Approach;
  toleranceCents: number;
  /** How far below the line is still inside; as far as above where nothing is said. */
  belowCents?: number | undefined;
  /** It was left so already; it was left from above and is to be finished from below. */
  leftAlready: boolean;
  again: boolean;
  loud: boolean;
}

/**
 * The rule of a string that stands still while it is brought up: kept when it stands inside with its doubt.
 * @returns 'wait' where nothing new is to be kept; 'off' where it stands outside; 'unsure' where its doubt is too large to tell
 */
export function asLeft(r: AtRest): 'keep' | 'wait' | 'off' | 'unsure' {
  const { toleranceCents, belowCents = toleranceCents } = r;
  // Where there is so little room below, its doubt is not taken off it as well.
  const doubtBelow = belowCents < toleranceCents ? 0 : r.sigmaCents;
  if (r.cents + r.sigmaCents <= toleranceCents && r.cents - doubtBelow >= -belowCents) {
    const arrival = arrivalOf(r.way);
    // It still stands where it was left: nobody has turned it, there is nothing new to keep.
    if (r.leftAlready && arrival === 'untouched') return 'wait';
    return r.again && arrival !== 'from below' ? 'wait' : 'keep';
  }
  const share = r.loud ? DOUBT_SHARE : UNSETTLED_SHARE;
  const inside = r.cents <= toleranceCents && r.cents >= -belowCents;
  return inside && r.sigmaCents > share * toleranceCents ? 'unsure' : 'off';
}

/** Where it was said to stand, out of tolerance: Enter once more keeps it there. */
export type SaidOff = { note: number; cents: number } | undefined;

/**
 * The player's word decides: in tolerance at the first press, out of it when it was told where it stands and it stands there still.
 * @param shown what the trace shows of this moment
 */
export function asTaken(
  told: SaidOff,
  read: { note: number; cents: number; sigmaCents: number },
  shown: Figure | undefined,
  { toleranceCents, belowCents = toleranceCents }: { toleranceCents: number; belowCents?: number },
): 'keep' | 'moved' | 'tell' {
  const apart = shown ? Math.abs(read.cents - shown.cents) : 0;
  // What was read is not where it stands now: a hand has turned it meanwhile.
  if (shown && apart > AGREE_CENTS + 2 * (shown.spread + read.sigmaCents)) return 'moved';
  if (read.cents <= toleranceCents && read.cents >= -belowCents) return 'keep';
  const still = Math.abs(read.cents - (told?.cents ?? Infinity)) < MOVED_CENTS + 2 * read.sigmaCents;
  return told?.note === read.note && still ? 'keep' : 'tell';
}
