import { plusMinus } from '../../music';
import { count, hertz, id, oneOf, sigma, within } from './fields';
import { SOURCES } from './reading';
import { ofString, recordKind, type RecordOf } from './record';

export const TOUCHES = ['open', 'fret', 'harmonic'] as const;
export type TouchKind = (typeof TOUCHES)[number];

/** One place sounded in an octave pass: the median of its plucks. */
export const touch = recordKind(
  'touch',
  {
    ...ofString,
    /** The pass that it belongs to. */
    passId: id().required(),
    touch: oneOf(TOUCHES).required(),
    /** For a fretted note; 12 for a harmonic. */
    fret: count(1, 36)
      .optional()
      .when('touch', { is: 'fret', then: (s) => s.required() }),
    source: oneOf(SOURCES).required(),
    frequencyHz: hertz().required(),
    /** Standard error of the median, cents. */
    sigmaCents: sigma().required(),
    /** Spread between the plucks, cents; 0 for a single one. */
    scatterCents: within(0, 1200).required(),
    inharmonicity: within(0, 1).nullable().optional(),
  },
  (r, names) => {
    const place = r.touch === 'fret' ? `fret ${r.fret}` : r.touch;
    const told = `${place} ${r.frequencyHz.toFixed(3)} Hz ${plusMinus(r.sigmaCents)} cents (${r.source})`;
    return `${names.string(r.instrumentId, r.stringId)}: ${told}`;
  },
  {
    instrumentId: 'x',
    stringId: 's1',
    passId: 'p2',
    touch: 'fret',
    fret: 12,
    source: 'microphone',
    frequencyHz: 659.3,
    sigmaCents: 0.3,
    scatterCents: 0.2,
    inharmonicity: 1e-5,
  },
);
export type TouchRecord = RecordOf<typeof touch>;
