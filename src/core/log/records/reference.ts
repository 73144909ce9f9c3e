import { plusMinus } from '../../music';
import { a4, degrees, oneOf, sigma, within } from './fields';
import { recordKind, type RecordOf } from './record';

export const REFERENCE_SOURCES = ['standard', 'fork', 'reed', 'keyboard', 'player', 'string'] as const;
export type ReferenceSource = (typeof REFERENCE_SOURCES)[number];

/** What is tuned by from now on; readings before it keep the one that they were read by. */
export const reference = recordKind(
  'reference',
  {
    a4Hz: a4().required(),
    /** What it was taken from; typed where nothing is said. */
    source: oneOf(REFERENCE_SOURCES).optional(),
    /** Standard error of a measured one, cents. */
    sigmaCents: sigma().optional(),
    /** The room when it was measured, deg C. */
    tempC: degrees().optional(),
    /** How much wider than pure a keyboard's octaves are, cents an octave. */
    stretchCents: within(-50, 50).optional(),
  },
  (r) => {
    const doubt = r.sigmaCents === undefined ? '' : `, ${plusMinus(r.sigmaCents, 2)} cents`;
    return `Reference A4 ${r.a4Hz.toFixed(1)} Hz${r.source ? ` (${r.source}${doubt})` : ''}`;
  },
  { a4Hz: 441.3, source: 'keyboard', sigmaCents: 0.1, tempC: 20, stretchCents: 0.8 },
);
export type ReferenceRecord = RecordOf<typeof reference>;
