import { EAR_SCHOOLS } from '../../codes';
import { signedCents } from '../../music';
import { centsField, id, interval, oneOf, sigma } from './fields';
import { ofString, recordKind, type RecordOf } from './record';

/** One string tuned by ear against another, and how far off the app read it then: what an ear is worth. */
export const judgement = recordKind(
  'judgement',
  {
    ...ofString,
    /** The string that it was tuned against. */
    againstId: id().required(),
    passId: id().required(),
    school: oneOf(EAR_SCHOOLS).required(),
    /** The pure interval that was listened for, as at the door. */
    interval: interval(),
    /** How far both strings stand from it at their targets, cents. */
    expectCents: centsField().required(),
    /** Where this string and the other one stood from their targets, cents. */
    cents: centsField().required(),
    againstCents: centsField().required(),
    sigmaCents: sigma().required(),
  },
  (r, names) => {
    const [own, other] = [r.stringId, r.againstId].map((s) => names.string(r.instrumentId, s));
    return `${own}: by ear against ${other} (${r.interval.join(':')}), read ${signedCents(r.cents)} cents`;
  },
  {
    instrumentId: 'x',
    stringId: 's1',
    againstId: 's2',
    passId: 'p4',
    school: 'anchor',
    interval: [3, 2],
    expectCents: -2,
    cents: 1,
    againstCents: 0,
    sigmaCents: 0.4,
  },
);
export type JudgementRecord = RecordOf<typeof judgement>;
