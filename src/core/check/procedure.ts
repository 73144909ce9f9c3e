import {
  guidedOf,
  passOf,
  passRecord,
  readingOf,
  type GuidedLog,
  type KeptReading,
  type Outcome,
  type PassStep,
  type Procedure,
  cameFromAbove,
} from '../guided';
import { cents } from '../music';
import type { Draft, PassRecord, PassVisit, Source, StringLife } from '../log';
import { isOfPass, lastKept, leadIn, needsTuning, nextStep } from './steps';
import { TOLERANCE_CENTS } from './tolerance';
import { fromAboveWords, insistWords, checkKeptWords, NOTHING_TO_TAKE_BACK, outsideWords, TAKEN_BACK } from './words';

/** What the player chose beside the order of the pass. */
export interface CheckState {
  /** This string first. */
  chosen?: PassStep;
  /** What sounds is the named string, the player says. */
  insist?: true;
}

export type CheckAction =
  /** A pass begins; what a plan asks of it. */
  | { do: 'start'; visit?: PassVisit | undefined }
  | { do: 'stop' }
  /** On without this string. */
  | { do: 'next' }
  /** The string before this one, read once more. */
  | { do: 'back' }
  /** This string first; without a pass under way it is the only one. */
  | { do: 'choose'; stringId: string }
  | { do: 'insist' }
  | { do: 'take-back' };

/** A second pluck this close to the first confirms that it moved at once, cents. */
const CONFIRM_CENTS = 2.5;

/** The check pass under way on the instrument in hand. */
export const checkPassOf = (log: GuidedLog): PassRecord | undefined => passOf(log, 'check');

/** What is to be done next: what the player chose, or what the order of the pass says; undefined where no pass is under way, or it is done. */
export function checkStep(log: GuidedLog, state: CheckState): PassStep | undefined {
  const pass = checkPassOf(log);
  return pass && (state.chosen ?? nextStep(log.life.strings, log.statuses, pass, TOLERANCE_CENTS));
}

const stringIn = ({ life }: GuidedLog, stringId: string): StringLife =>
  life.strings.find((s) => s.plan.stringId === stringId)!;

/** How far above its target the string of a step is left, cents. */
export const leadOf = (log: GuidedLog, step: PassStep): number =>
  step.purpose === 'left' ? leadIn(checkPassOf(log), step.stringId) : 0;

/** A reading of one string, in the pass under way or the one that is given. */
function keepReading(
  log: GuidedLog,
  step: PassStep,
  { reading: heard, arrival, learned }: KeptReading,
  source: Source,
  passId = checkPassOf(log)?.passId,
): Outcome<CheckState> & { records: Draft[] } {
  const { stringId, leapCents } = step;
  const string = stringIn(log, stringId);
  const { note } = string.plan;
  const kept = readingOf(log, string, heard, source);
  const leadCents = leadOf(log, step);
  // What was heard of a string that is left above its target was counted from there.
  const at = leadCents === 0 ? kept.cents : cents(kept.frequencyHz, kept.targetHz);
  const previous = string.readings.at(-1);
  const leapt = leapCents !== undefined && previous !== undefined && Math.abs(previous.cents - at) < CONFIRM_CENTS;
  const left = step.purpose === 'left';
  const reading = {
    ...kept,
    cents: at,
    purpose: left ? ('as-left' as const) : ('as-found' as const),
    ...(leapt ? { slip: true } : {}),
    ...(leadCents === 0 ? {} : { leadCents }),
    ...(passId === undefined ? {} : { passId }),
    ...(arrival ? { arrival } : {}),
  };
  const above = left && cameFromAbove(arrival);
  const off = Math.abs(at - leadCents) > TOLERANCE_CENTS;
  const { instrumentId } = kept;
  return {
    state: above ? { chosen: { stringId, purpose: 'left', again: true } } : {},
    records: [reading, ...(learned ? [{ type: 'tuner' as const, instrumentId, stringId, ...learned }] : [])],
    say: above ? fromAboveWords(note) : checkKeptWords({ note, reading, leadCents, off }),
  };
}

function heard(kept: KeptReading, source: Source, log: GuidedLog, state: CheckState): Outcome<CheckState> {
  const step = checkStep(log, state);
  if (step) return keepReading(log, step, kept, source);
  const stringId = log.focusId!;
  const asFound: PassStep = { stringId, purpose: 'found' };
  if (source === 'typed') return keepReading(log, asFound, kept, source);
  if (source !== 'file') return { state, say: outsideWords(stringIn(log, stringId).plan.note, kept.reading.cents) };
  // A file is a session like any other: it begins one.
  const begun = passRecord(log, 'check', {}, true);
  const { records, ...read } = keepReading(log, asFound, kept, source, begun.passId);
  return { ...read, records: [begun, ...records] };
}

/** This string, to be read, or brought up where it was found out of tolerance in this pass. */
function chooseString(log: GuidedLog, stringId: string, reads = false): Outcome<CheckState> {
  const pass = checkPassOf(log);
  const last = pass && stringIn(log, stringId).readings.findLast((r) => isOfPass(r, pass));
  const off = !reads && last !== undefined && needsTuning(last, pass!, TOLERANCE_CENTS);
  const others = log.life.strings.map((s) => s.plan.stringId);
  return {
    state: { chosen: { stringId, purpose: off ? 'left' : 'found' } },
    ...(pass ? {} : { records: [passRecord(log, 'check', { skipped: others }, true)] }),
    say: '',
  };
}

function press(action: CheckAction, log: GuidedLog, state: CheckState): Outcome<CheckState> {
  const pass = checkPassOf(log);
  const step = checkStep(log, state);
  const inHand = step?.stringId ?? log.focusId;
  switch (action.do) {
    case 'start':
      return {
        state: {},
        records: [passRecord(log, 'check', action.visit ? { visit: action.visit } : {}, true)],
        say: '',
      };
    case 'stop':
      return { state: {}, ...(pass ? { records: [passRecord(log, 'check', { over: true })] } : {}) };
    case 'next':
      if (!step || !pass) return { state };
      if (state.chosen) return { state: {}, say: '' };
      return {
        state: {},
        records: [passRecord(log, 'check', { skipped: [...new Set([...pass.skipped, step.stringId])] })],
        say: '',
      };
    case 'back': {
      const before = log.life.strings[log.life.strings.findIndex((s) => s.plan.stringId === inHand) - 1];
      return before ? chooseString(log, before.plan.stringId, true) : { state };
    }
    case 'choose':
      return chooseString(log, action.stringId);
    case 'insist':
      return inHand
        ? { state: { ...state, insist: true }, say: insistWords(stringIn(log, inHand).plan.note) }
        : { state };
    case 'take-back': {
      const last = pass && lastKept(log.life.strings, pass);
      if (!last) return { state, say: NOTHING_TO_TAKE_BACK };
      return { state: {}, records: [{ type: 'taken-back', supersedes: last.id }], say: TAKEN_BACK };
    }
  }
}

/** The check pass: every string as found, untouched; then each that is out of tolerance brought up; a plan's visit in its own order. */
export const checkProcedure: Procedure<CheckState, CheckAction> = {
  next(log, state) {
    const step =
      checkStep(log, state) ?? (log.focusId ? { stringId: log.focusId, purpose: 'found' as const } : undefined);
    const insist = state.insist === true;
    return (
      step &&
      guidedOf(log.life, step, log.a4Hz, log.nowMs, {
        toleranceCents: TOLERANCE_CENTS,
        insist,
        leadCents: leadOf(log, step),
      })
    );
  },
  heard,
  press,
};
