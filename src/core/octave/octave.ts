import { cents } from '../music';

/** First partials of one string's readings, Hz. */
export interface OctaveReadings {
  openHz: number;
  fret12Hz: number;
  harmonic12Hz?: number | undefined;
  /** Stiffness B of the open string; a usual one is assumed where it is missing. */
  inharmonicity?: number | undefined;
  /** Standard error of one reading, cents. */
  sigmaCents: number;
}

/** The three figures of a pass, kept apart: what the ear hears, what the string does, what saddle and hand do. */
export interface OctaveErrors {
  /** Fretted octave against the open string, sharp positive, cents. */
  errorCents: number;
  sigmaCents: number;
  /** Harmonic less what a uniform stiff string would give: of the string itself. null without a harmonic. */
  stringCents: number | null;
  stringSigma: number | null;
  /** What is left for saddle, nut end and hand. null without a harmonic. */
  geometryCents: number | null;
  geometrySigma: number | null;
}

/** Assumed where the stiffness is not known, and how far that may be off in cents of the octave (house estimate). */
const USUAL_B = 6e-5;
const USUAL_SPREAD = 0.15;

/**
 * How far the second partial of a uniform stiff string lies above twice its first, cents: 600 log2((1 + 4B) / (1 + B)), from
 * f_n = n f0 sqrt(1 + B n^2) (Fletcher 1964).
 */
export const stiffOctaveCents = (inharmonicity: number): number => cents(1 + 4 * inharmonicity, 1 + inharmonicity) / 2;

/** How far the harmonic at the octave lies from where an even string's would, cents: 0 where the string is even. @param inharmonicity coefficient B */
export const unevenCents = (openHz: number, harmonicHz: number, inharmonicity = USUAL_B): number =>
  cents(harmonicHz, 2 * openHz) - stiffOctaveCents(inharmonicity);

/** Octave errors of a string with their standard errors, carried through from the readings. */
export function octaveOf({ openHz, fret12Hz, harmonic12Hz, inharmonicity, sigmaCents }: OctaveReadings): OctaveErrors {
  const errorCents = cents(fret12Hz, 2 * openHz);
  const sigma = Math.SQRT2 * sigmaCents;
  if (harmonic12Hz === undefined)
    return {
      errorCents,
      sigmaCents: sigma,
      stringCents: null,
      stringSigma: null,
      geometryCents: null,
      geometrySigma: null,
    };
  const stringCents = unevenCents(openHz, harmonic12Hz, inharmonicity);
  const unsure = inharmonicity === undefined ? USUAL_SPREAD : 0;
  return {
    errorCents,
    sigmaCents: sigma,
    stringCents,
    stringSigma: Math.hypot(sigma, unsure),
    geometryCents: errorCents - stringCents,
    // The open string cancels between the two.
    geometrySigma: Math.hypot(sigma, unsure),
  };
}
