import type { OctaveErrors } from './octave';
import { saddleMoveMm } from './saddle-law';

export type OctaveVerdict = 'in-tune' | 'saddle' | 'string' | 'pressing' | 'unclear';

/** An octave this near is left alone; a harmonic this far from a uniform string's says the string is uneven, cents. */
const FINE_CENTS = 1;
const UNEVEN_CENTS = 1;
/** Readings that scatter this much are the hand's, cents. */
const SCATTER_CENTS = 1;
/** No saddle stands further off than this share of the length: the hand, or another fret, does (house estimate). */
const MOST_OFF = 0.01;

/**
 * What one string's pass says, from its 12th fret alone. A bad string comes before a saddle: no saddle should be moved for it.
 * @param readingSigma standard error of one reading, cents
 * @param grewAlone its error grew over the months while no other string's did ({@link grewAlone})
 */
export function judgeString(
  errors: OctaveErrors,
  readingSigma: number,
  lengthMm: number,
  grewAlone = false,
): OctaveVerdict {
  const { errorCents: e, sigmaCents, stringCents, stringSigma } = errors;
  if (stringCents !== null && Math.abs(stringCents) > Math.max(UNEVEN_CENTS, 2 * stringSigma!)) return 'string';
  if (Math.abs(e) > Math.max(FINE_CENTS, 2 * sigmaCents)) {
    // A saddle does not wander: what grew on one string alone is that string.
    if (grewAlone) return 'string';
    const far = Math.abs(saddleMoveMm(lengthMm, e)) > MOST_OFF * lengthMm;
    if (e > 0 && (far || readingSigma >= SCATTER_CENTS)) return 'pressing';
    return far ? 'unclear' : 'saddle';
  }
  return Math.abs(e) <= FINE_CENTS && sigmaCents < FINE_CENTS ? 'in-tune' : 'unclear';
}
