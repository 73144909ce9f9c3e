import { mixed } from 'yup';
import { LEAST_HZ, MOST_HZ } from '../../limits';
import { plusMinus, signedCents } from '../../music';
import { a4, centsField, degrees, hertz, id, lead, oneOf, sigma, within, yes } from './fields';
import { ofString, recordKind, type RecordOf } from './record';

export const PURPOSES = ['as-found', 'as-left'] as const;
export const SOURCES = ['microphone', 'file', 'simulated', 'typed'] as const;
export const ARRIVALS = ['from below', 'from above', 'overshot', 'untouched'] as const;
export type Purpose = (typeof PURPOSES)[number];
export type Source = (typeof SOURCES)[number];
export type ArrivalWord = (typeof ARRIVALS)[number];

/** One partial of a note; checked by hand, for a list has up to two hundred and a file has a hundred thousand lists. */
interface ReadPartial {
  n: number;
  frequencyHz: number;
  sigmaHz: number;
}
const isPartial = (value: unknown): boolean => {
  if (typeof value !== 'object' || value === null) return false;
  let fields = 0;
  for (const _ in value) fields++;
  if (fields !== 3) return false;
  const { n, frequencyHz, sigmaHz } = value as Record<string, unknown>;
  const lies = (x: unknown, low: number, high: number) => typeof x === 'number' && x >= low && x <= high;
  return (
    Number.isInteger(n) && lies(n, 1, 200) && lies(frequencyHz, LEAST_HZ, MOST_HZ * 10) && lies(sigmaHz, 0, MOST_HZ)
  );
};
const arePartials = (list: unknown): boolean => Array.isArray(list) && list.length <= 200 && list.every(isPartial);
const partials = () =>
  mixed<ReadPartial[]>()
    .meta({ surely: arePartials })
    .test(
      'partials',
      '${path} must be a list of {n, frequencyHz, sigmaHz} within bounds',
      (list) => list === undefined || arePartials(list),
    );

const SAMPLE = {
  instrumentId: 'x',
  stringId: 's1',
  purpose: 'as-left',
  source: 'microphone',
  frequencyHz: 329.6,
  cents: 1.2,
  sigmaCents: 0.3,
  targetHz: 329.63,
  a4Hz: 440,
  arrival: 'from below',
  inharmonicity: 1e-5,
  snrDb: 40,
  glideCents: 1,
  tempC: 20,
  leadCents: 1,
  passId: 'p1',
} as const;

/** A string's pitch, as it was found or as it was left. */
export const reading = recordKind(
  'reading',
  {
    ...ofString,
    purpose: oneOf(PURPOSES).required(),
    source: oneOf(SOURCES).required(),
    frequencyHz: hertz().required(),
    cents: centsField().required(),
    sigmaCents: sigma().required(),
    targetHz: hertz().required(),
    a4Hz: a4().required(),
    arrival: oneOf(ARRIVALS).optional(),
    inharmonicity: within(0, 1).nullable().optional(),
    snrDb: within(-300, 300).optional(),
    glideCents: centsField().optional(),
    /** The partials it was read from; empty for a typed figure. */
    partials: partials().required(),
    /** Room temperature last typed before the reading, deg C. */
    tempC: degrees().optional(),
    /** The pass that it was kept in. */
    passId: id().optional(),
    /** How far above its target it was meant to be left, cents, because it is going to fall: no error. */
    leadCents: lead().optional(),
    /** A second pluck, asked for after a surprising reading, confirmed it: the string slipped, or rose, at once. */
    slip: yes().optional(),
    /** The first reading after it was stretched by hand: the drop is the hand's, not creep. */
    stretched: yes().optional(),
  },
  (r, names) => {
    const how = r.arrival && r.arrival !== 'untouched' ? `, ${r.arrival}` : '';
    const of = names.string(r.instrumentId, r.stringId);
    const told = `${r.purpose.replace('-', ' ')} ${signedCents(r.cents)} ${plusMinus(r.sigmaCents)} cents (${r.source}${how})`;
    return `${of}: ${told}${r.slip ? ', moved at once, read twice' : ''}`;
  },
  { ...SAMPLE, partials: [{ n: 1, frequencyHz: 329.6, sigmaHz: 0.01 }] },
  {
    older: { 1: SAMPLE },
    // A reading of version 1 need not have had partials; an empty list says that none are known.
    steps: { 1: (r) => ({ ...r, partials: r['partials'] ?? [] }) },
  },
);
export type ReadingRecord = RecordOf<typeof reading>;
