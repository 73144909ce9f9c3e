import type { Reading, SectionHeard } from '../pitch';

/** The last running figure of a note without an onset. */
export type LastFigure = { note: number; cents: number } | undefined;

/** A running figure of a note without an onset counts when the next agrees, cents. */
const AGREE_CENTS = 0.8;
/** A pluck that moved more than this while it was to be left alone is no reading, cents, beside the doubt. */
const UNTOUCHED_CENTS = 7;

/**
 * The rule of a string that is read as it was found: the whole of one pluck, or of a bowed note twice alike.
 * @returns whether to wait for more, to judge this section, or to say that it was not left alone
 */
export function asFound(
  found: LastFigure,
  s: SectionHeard,
  reading: Reading,
): { found: LastFigure; is: 'more' | 'read' | 'moved' } {
  if (s.part === 'provisional') return { found, is: 'more' };
  if (s.part === 'running') {
    // A bowed note, or one that was ringing when listening began: twice alike.
    if (s.onsetS !== null) return { found, is: 'more' };
    const alike = found?.note === s.note && Math.abs(found.cents - reading.cents) < AGREE_CENTS;
    const here = { note: s.note, cents: reading.cents };
    if (!alike) return { found: here, is: 'more' };
    return { found: here, is: isMoved(reading) ? 'moved' : 'read' };
  }
  return { found, is: isMoved(reading) ? 'moved' : 'read' };
}

const isMoved = ({ driftCents, sigmaCents }: Reading) => Math.abs(driftCents) > UNTOUCHED_CENTS + 2 * sigmaCents;
