import { mixed } from 'yup';
import { plusMinus, signedCents } from '../../music';
import { centsField, count, id, interval, part, sigma, within, yes, type FieldsOf } from './fields';
import { ofString, recordKind, type RecordOf } from './record';

const sounded = { fret: count(0, 36).required(), harmonic: yes().optional() };
export type SoundedAt = FieldsOf<typeof sounded>;
const place = part(sounded).required();

/** Two strings heard together: how far they stand from a pure interval. */
export const checkpoint = recordKind(
  'checkpoint',
  {
    ...ofString,
    againstId: id().required(),
    /** The round of checkpoints that it belongs to. */
    passId: id().required(),
    /** The string that the round rests on. */
    anchorId: id().required(),
    interval: interval(),
    /** How far both stand from it when they are right, frets that are off counted in, cents. */
    expectCents: centsField().required(),
    /** How far the first one over the other stood from the pure interval, cents, and the beats heard. */
    cents: centsField().required(),
    sigmaCents: sigma().required(),
    beatsHz: within(0, 1000).required(),
    /** Where each was sounded: at a fret, 0 for open, or its harmonic there. Missing in older ones. */
    places: mixed<[SoundedAt, SoundedAt]>().test(
      'places',
      '${path} must be two places, each {fret, harmonic}',
      (v: unknown) =>
        v === undefined ||
        (Array.isArray(v) && v.length === 2 && v.every((p) => place.isValidSync(p, { strict: true }))),
    ),
  },
  (r, names) => {
    const [own, other] = [r.stringId, r.againstId].map((s) => names.string(r.instrumentId, s));
    const off = `${signedCents(r.cents - r.expectCents)} ${plusMinus(r.sigmaCents)} cents`;
    return `${own} with ${other} (${r.interval.join(':')}): ${off}, ${r.beatsHz.toFixed(1)} beats a second`;
  },
  {
    instrumentId: 'x',
    stringId: 's1',
    againstId: 's2',
    passId: 'p5',
    anchorId: 's2',
    interval: [3, 2],
    expectCents: -2,
    cents: -1,
    sigmaCents: 0.2,
    beatsHz: 0.4,
  },
);
export type CheckpointRecord = RecordOf<typeof checkpoint>;
