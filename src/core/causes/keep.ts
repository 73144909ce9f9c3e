import type { Cause, Told } from '../codes';
import type { GuidedLog } from '../guided';
import { signedCents } from '../music';
import type { Draft, FindingRecord } from '../log';
import { TEST_GUIDES } from './guide';
import { REMEDIES } from './remedies';
import { testProcedure, type TestDone, type TestOutcome } from './probe';
import { lessWords, outcomeOf } from './words';

/** What a test of an inquiry is done for. */
export interface InquiryWhy {
  passId: string;
  told: Told;
  /** The same test again, after something was done: what it would show untouched, and what the inquiry had found. */
  after?: { expectedCents: number; cause: Cause; causes: FindingRecord['causes'] };
}

const OUTCOMES = { helped: 'it helped', 'did-not': 'it did not help', 'cannot-tell': 'it cannot be told yet' };
/** Marks the test that was done again after a remedy: it is no evidence of the inquiry before. */
const AFTER = ':after';
/** Whether a pass proves a remedy. */
export const isAfterRemedy = (passId: string): boolean => passId.endsWith(AFTER);

/** A test as the log keeps it. */
const testRecord = (log: GuidedLog, passId: string, outcome: TestOutcome): Extract<Draft, { type: 'test' }> => ({
  type: 'test',
  instrumentId: log.life.record.instrumentId,
  stringId: outcome.stringId,
  passId,
  test: outcome.test,
  firstCents: outcome.first,
  secondCents: outcome.second ?? null,
  ...(outcome.others === undefined ? {} : { othersCents: outcome.others }),
  sigmaCents: outcome.sigmaCents,
});

/** A fretted octave this much further off than the harmonic is no matter of the string, cents (house). */
const FRET_CENTS = 4;
const fretWords = ({ first, fret }: TestOutcome): string =>
  fret === undefined || Math.abs(fret - first) < FRET_CENTS
    ? ''
    : ` At fret 12 it is ${signedCents(fret)}: that is the saddle or the fret. Check the intonation.`;

/** What an inquiry keeps of a test: evidence, or whether a remedy helped. */
function keepTest(outcome: TestOutcome, { passId, told, after }: InquiryWhy, log: GuidedLog): TestDone<InquiryWhy> {
  if (!after) {
    const answers = Object.entries(told).filter(([, a]) => a !== undefined);
    const answered = answers.length > 0 ? { told: Object.fromEntries(answers) as Told } : {};
    return {
      records: [{ ...testRecord(log, passId, outcome), ...answered }],
      say: `${TEST_GUIDES[outcome.test].title}: ${signedCents(outcome.first)} cents.${fretWords(outcome)}`,
    };
  }
  const { expectedCents } = after;
  const helped = outcomeOf(expectedCents, outcome.first, outcome.sigmaCents);
  const { instrumentId } = log.life.record;
  return {
    records: [
      testRecord(log, `${passId}${AFTER}`, outcome),
      {
        type: 'finding',
        instrumentId,
        stringId: outcome.stringId,
        passId,
        causes: after.causes,
        remedy: `treated because ${REMEDIES[after.cause].name}`,
        outcome: helped,
      },
    ],
    say: `${signedCents(outcome.first)} now, ${lessWords(expectedCents, outcome.first, outcome.sigmaCents)} (${signedCents(expectedCents)}): ${OUTCOMES[helped]}.`,
  };
}

/** The tests of an inquiry: why does this string not stay? */
export const inquiryTests = testProcedure(keepTest);

/** What the friction of a string keeps of its measures; a routine goes on from string to string. */
function keepMeasure(outcome: TestOutcome, _why: null, log: GuidedLog): TestDone<null> {
  const { strings } = log.life;
  const at = strings.findIndex((s) => s.plan.stringId === outcome.stringId);
  const { note } = strings[at]!.plan;
  const records = [testRecord(log, `friction:${outcome.stringId}`, outcome)];
  const { test, first, second = 0 } = outcome;
  const following = test === 'routine' ? strings[at + 1] : undefined;
  if (following) return { records, next: { test, stringId: following.plan.stringId, why: null } };
  if (test === 'friction')
    return { records, say: `${note}: ${(second - first).toFixed(1)} cents between its two limits.` };
  if (test === 'routine') return { records, say: 'All strings are bent. Now bring them up from below.' };
  return { records, say: `${note}: ${signedCents(first)} cents; ${signedCents(second)} in the two minutes after.` };
}

/** The friction of every string at its nut: both limits, what a trick is worth, the routine before a show. */
export const frictionTests = testProcedure(keepMeasure);
