import { array, number, object } from 'yup';
import { LEAST_SIGMA_CENTS, MOST_STRINGS } from '../core/limits';
import { cents } from '../core/music';
import { bridgeLine, judgeString, octaveOf, saddleMoveMm } from '../core/octave';
import { checked, refused } from './lines';

const positive = (max: number) => number().strict().positive().max(max);
/** Standard error of a reading where none is given, cents (house estimate). */
const USUAL_SIGMA = 0.3;
/** Further off than this it is no octave of that string, cents. */
const OCTAVE_WITHIN = 100;

const octaveSchema = object({
  lengthMm: positive(10000).required(),
  openHz: positive(20000).required(),
  fret12Hz: positive(40000).required(),
  harmonic12Hz: positive(40000).nullable().optional(),
  inharmonicity: number().strict().min(0).max(0.1).nullable().optional(),
  sigmaCents: number().strict().min(LEAST_SIGMA_CENTS).max(100).nullable().optional(),
  threadMm: positive(10).nullable().optional(),
});

const lineSchema = object({
  strings: array()
    .of(
      object({
        acrossMm: number().strict().min(-1000).max(1000).required(),
        lengthMm: positive(10000).required(),
        errorCents: number().strict().min(-OCTAVE_WITHIN).max(OCTAVE_WITHIN).required(),
      }),
    )
    .max(MOST_STRINGS, 'An instrument has at most ${max} strings.')
    .required(),
});

/** One line of `octave`: three readings of a string in; its octave error, the saddle's move and a verdict out. */
export function octaveLine(item: Record<string, unknown>): object {
  const valid = checked(octaveSchema, item, 'bad-octave');
  if (!valid.ok) return valid;
  const o = valid.value;
  const sigma = o.sigmaCents ?? USUAL_SIGMA;
  const errors = octaveOf({
    openHz: o.openHz,
    fret12Hz: o.fret12Hz,
    harmonic12Hz: o.harmonic12Hz ?? undefined,
    inharmonicity: o.inharmonicity ?? undefined,
    sigmaCents: sigma,
  });
  if (Math.abs(errors.errorCents) > OCTAVE_WITHIN)
    return refused('no-octave', 'The 12th-fret note is not the octave of this open string: read both again.');
  if (o.harmonic12Hz && Math.abs(cents(o.harmonic12Hz, 2 * o.openHz)) > OCTAVE_WITHIN)
    return refused('no-octave', 'The harmonic is not the octave of this open string: read both again.');
  const moveMm = saddleMoveMm(o.lengthMm, errors.errorCents);
  return {
    ok: true,
    errorCents: errors.errorCents,
    sigmaCents: errors.sigmaCents,
    moveMm,
    ...(o.threadMm ? { turns: moveMm / o.threadMm } : {}),
    verdict: judgeString(errors, sigma, o.lengthMm),
  };
}

/** One line of `bridge-line`: octave errors across a straight loose bridge in; the moves of its feet out. */
export function bridgeLineLine(item: Record<string, unknown>): object {
  const valid = checked(lineSchema, item, 'bad-bridge');
  if (!valid.ok) return valid;
  const bridge = valid.value;
  const line = bridgeLine(bridge.strings);
  if (!line) return refused('no-line', 'A line wants two strings that cross the bridge at different places.');
  return { ok: true, ...line };
}
