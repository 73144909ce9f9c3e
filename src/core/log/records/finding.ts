import { array } from 'yup';
import { CAUSES, type RemedyOutcome } from '../../codes';
import { id, oneOf, part, remarkField, within } from './fields';
import { ofString, recordKind, type RecordOf } from './record';

const OUTCOMES: readonly RemedyOutcome[] = ['helped', 'did-not', 'cannot-tell'];

/** What was concluded at that time of why a string does not stay, and what came of a remedy. */
export const finding = recordKind(
  'finding',
  {
    ...ofString,
    passId: id().required(),
    causes: array()
      .of(part({ cause: oneOf(CAUSES).required(), probability: within(0, 1).required() }).required())
      .min(1)
      .max(CAUSES.length)
      .required(),
    /** What was done about it; and whether the same test afterwards says that it helped. */
    remedy: remarkField(),
    outcome: oneOf(OUTCOMES).optional(),
  },
  (r, names) => {
    const told = r.remedy
      ? `${r.remedy}: ${r.outcome?.replace('-', ' ') ?? ''}`
      : `most likely ${r.causes[0]!.cause.replaceAll('-', ' ')}`;
    return `${names.string(r.instrumentId, r.stringId)}: ${told}`;
  },
  {
    instrumentId: 'x',
    stringId: 's1',
    passId: 'p3',
    causes: [{ cause: 'peg-slip', probability: 0.9 }],
    remedy: 'peg treated',
    outcome: 'helped',
  },
);
export type FindingRecord = RecordOf<typeof finding>;
