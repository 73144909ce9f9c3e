import { TOLERANCE_CENTS } from '../check';
import {
  guidedOf,
  type GuidedLog,
  type GuidedStep,
  type KeptReading,
  type Outcome,
  type Procedure,
  readingOf,
  cameFromAbove,
} from '../guided';
import { ratioOfCents } from '../music';
import { changeBetween, type Reading } from '../pitch';
import type { Draft, ReadingRecord, Source, StringLife } from '../log';
import { adviseRounds } from '../settling';
import { traitsOf } from '../strings';
import { courseLabels, fittingPlan, STRETCH_SCHOOLS, type StretchSchool } from './plan';
import { REMOVALS } from './removal';
import { turnsFor, type FittingStep } from './steps';
import { droppedWords, leftWords, NO_DROP, roundsNote } from './words';

/** A fitting under way on one instrument. What was done is in the log; this is the place in the plan. */
export interface Progress {
  stringIds: string[];
  school: StretchSchool;
  index: number;
  /** When it began, ms: what was written since is of this fitting. */
  startedMs: number;
}

/** Where a string is in its stretch rounds; the rounds themselves are in the log. */
export type RoundPhase = 'stretch' | 'read' | 'up';

export interface FittingState {
  progress: Progress;
  phase: RoundPhase;
  /** It came from above: once more from below. */
  again: boolean;
  /** What the player notes of the step in hand; which of the reasons a string goes for. */
  note: string;
  removal: number;
}

export type FittingAction =
  /** The step is done: what is not sounded is ticked, a string that was stretched is read, what came from above stays so. */
  | { do: 'done' }
  | { do: 'skip'; note: string }
  | { do: 'back' }
  | { do: 'note'; text: string }
  | { do: 'warmed' }
  | { do: 'removal'; index: number };

/** Where a new string waits while it is bedded, cents from its target, and how near is near enough there (house estimates). */
const UNDER_CENTS = -200;
export const UNDER_TOLERANCE = 40;

/** A fitting where it was left, or at its beginning. */
export const beginFitting = (progress: Progress): FittingState => ({
  progress,
  phase: 'stretch',
  again: false,
  note: '',
  removal: 0,
});

/** All steps of a fitting, in order. */
export function stepsOf({ life }: Pick<GuidedLog, 'life'>, { stringIds }: Progress): FittingStep[] {
  const all = life.record.strings;
  const labels = courseLabels(all.map((s) => s.note));
  const fitted = all.flatMap((s, i) => (stringIds.includes(s.stringId) ? [{ ...s, label: labels[i] }] : []));
  return fittingPlan(traitsOf(life.record), fitted);
}

/** The step in hand, and the one string that it is about, where it is about one. */
export function fittingAt(log: Pick<GuidedLog, 'life'>, { progress, phase }: FittingState) {
  const step = stepsOf(log, progress)[progress.index];
  const [onlyId] = step?.stringIds.length === 1 ? step.stringIds : [];
  const own = log.life.strings.find((s) => s.plan.stringId === onlyId);
  const kind = step?.kind;
  const sounding = own !== undefined && (kind === 'raise-under' || kind === 'raise' || kind === 'rounds');
  return {
    step,
    own,
    /** Two semitones under its target. */
    under: kind === 'raise-under',
    sounding,
    /** It is to be stretched by hand first; it is read after that. */
    waiting: kind === 'rounds' && phase === 'stretch',
    reading: kind === 'rounds' && phase === 'read',
  };
}

const dropsOf = (own: StringLife) => own.rounds.map((r) => r.dropCents);

/** How far a string dropped since its last reading, partial by partial where both have partials; flat positive, cents. */
function dropSince(last: ReadingRecord | undefined, now: Reading): number {
  if (!last) return -now.cents;
  const change = changeBetween(last, now);
  return -(change.partials > 0 ? change.cents : now.cents - last.cents);
}

/** Another step: what was said of the one before is over. */
const move = ({ progress }: FittingState, by: number): FittingState =>
  beginFitting({ ...progress, index: Math.max(0, progress.index + by) });

/** Writes the step in hand down, with what else it writes, and goes on. */
function finish(
  log: GuidedLog,
  state: FittingState,
  outcome: 'done' | 'skipped',
  note: string,
  more: Draft[] = [],
): Outcome<FittingState> {
  const { step } = fittingAt(log, state);
  if (!step) return { state };
  const ticked: Draft = {
    type: 'fitting',
    instrumentId: log.life.record.instrumentId,
    ...(step.stringIds.length === 1 ? { stringId: step.stringIds[0]! } : {}),
    step: step.code,
    outcome,
    ...(note ? { note } : {}),
  };
  return { state: move(state, 1), records: [...more, ticked] };
}

/** The rounds of a string are over; how many there were, this one with them. */
function endRounds(log: GuidedLog, state: FittingState, count: number, before: Draft[] = []): Outcome<FittingState> {
  const { step } = fittingAt(log, state);
  const { instrumentId } = log.life.record;
  const stretched: Draft[] =
    count === 0
      ? []
      : [
          {
            type: 'treatment',
            instrumentId,
            stringIds: step!.stringIds,
            treatment: 'stretched',
            note: roundsNote(count, STRETCH_SCHOOLS.find((s) => s.code === state.progress.school)!.name),
          },
        ];
  return finish(log, state, 'done', state.note, [...before, ...stretched]);
}

/** The string stands at pitch: on to the next step, or to the next round. */
function atPitch(log: GuidedLog, state: FittingState, before: Draft[] = []): Outcome<FittingState> {
  const { step, own } = fittingAt(log, state);
  if (step?.kind === 'raise') return finish(log, state, 'done', state.note, before);
  const drops = dropsOf(own!);
  if (adviseRounds(drops).stop) return endRounds(log, state, drops.length, before);
  return { state: { ...state, again: false, phase: 'stretch' }, records: before };
}

function heard(kept: KeptReading, source: Source, log: GuidedLog, state: FittingState): Outcome<FittingState> {
  const { step, own, under, reading } = fittingAt(log, state);
  if (!own) return { state };
  const { plan } = own;
  const { arrival, learned } = kept;
  const of = { instrumentId: log.life.record.instrumentId, stringId: plan.stringId };
  // Stretched and brought back on purpose, a turn of the tuner teaches nothing.
  const taught: Draft[] = learned && step?.kind !== 'rounds' ? [{ type: 'tuner', ...of, ...learned }] : [];
  if (under) return finish(log, state, 'done', state.note, taught);
  const record: Draft = {
    ...readingOf(log, own, kept.reading, source),
    purpose: reading ? 'as-found' : 'as-left',
    ...(reading ? { stretched: true } : arrival ? { arrival } : {}),
  };
  if (reading && kept.turned) {
    // Brought up before it was read, nobody knows how far it dropped.
    const up: Draft = { ...readingOf(log, own, kept.reading, source), purpose: 'as-left' };
    return { state: { ...state, phase: 'stretch' }, records: [up], say: NO_DROP };
  }
  if (reading) return afterRound(kept.reading, record, own, log, state);
  const above = cameFromAbove(arrival);
  const say = leftWords(plan.note, kept.reading.cents, above);
  if (above) return { state: { ...state, again: true }, records: [record, ...taught], say };
  return { ...atPitch(log, state, [record, ...taught]), say };
}

/** A string was read after it was stretched: how far it dropped, and whether that was enough. */
function afterRound(
  reading: Reading,
  record: Draft,
  own: StringLife,
  log: GuidedLog,
  state: FittingState,
): Outcome<FittingState> {
  const dropCents = dropSince(own.readings.at(-1), reading);
  const drops = [...dropsOf(own), dropCents];
  const advice = adviseRounds(drops);
  const { instrumentId } = log.life.record;
  const { stringId } = own.plan;
  const round: Draft = { type: 'round', instrumentId, stringId, dropCents, school: state.progress.school };
  const say = droppedWords(dropCents, advice.advice);
  if (Math.abs(reading.cents) > TOLERANCE_CENTS)
    return { state: { ...state, phase: 'up' }, records: [record, round], say };
  if (advice.stop) return { ...endRounds(log, state, drops.length, [record, round]), say };
  return { state: { ...state, phase: 'stretch' }, records: [record, round], say };
}

/** What was written of a string since this fitting began is not written again when one steps back and on. */
const isSince = (atMs: number | null | undefined, { startedMs }: Progress) => (atMs ?? -Infinity) >= startedMs;

/** The strings that a step puts on: those that this fitting has not put on yet. */
export function stringsToFit(log: Pick<GuidedLog, 'life'>, state: FittingState): StringLife[] {
  const { step } = fittingAt(log, state);
  return log.life.strings.filter(
    (s) => step?.stringIds.includes(s.plan.stringId) && !isSince(s.strungMs, state.progress),
  );
}

/** A step without sound is done. */
function tick(log: GuidedLog, state: FittingState): Outcome<FittingState> {
  const { step } = fittingAt(log, state);
  const { instrumentId } = log.life.record;
  if (step?.kind === 'remove') {
    const why = REMOVALS[state.removal]!.removal;
    // Said again of a string that is off already, it corrects what was said; of the new one it says nothing.
    const off = why ? stringsToFit(log, state) : [];
    const records = off.map((s): Draft => ({ type: 'removed', instrumentId, stringId: s.plan.stringId, ...why! }));
    return finish(log, state, 'done', state.note, records);
  }
  if (step?.kind === 'on') {
    const { tuner } = traitsOf(log.life.record);
    const records = stringsToFit(log, state).map(({ plan: { stringId, material } }): Draft => ({
      type: 'fitted',
      instrumentId,
      stringId,
      windings: turnsFor(material, tuner),
    }));
    return finish(log, state, 'done', state.note, records);
  }
  if (step?.kind === 'warm') return finish(log, state, 'skipped', state.note || 'left cold');
  return finish(log, state, 'done', state.note);
}

function press(action: FittingAction, log: GuidedLog, state: FittingState): Outcome<FittingState> {
  const { step, own, sounding, waiting } = fittingAt(log, state);
  switch (action.do) {
    case 'done':
      if (!sounding) return { ...tick(log, state), say: '' };
      if (state.again) return { ...atPitch(log, { ...state, again: false }), say: '' };
      return waiting ? { state: { ...state, phase: 'read' }, say: '' } : { state };
    case 'skip': {
      const drops = step?.kind === 'rounds' && own ? dropsOf(own).length : 0;
      return drops > 0 ? endRounds(log, state, drops) : finish(log, state, 'skipped', action.note);
    }
    case 'back':
      return { state: move(state, -1) };
    case 'note':
      return { state: { ...state, note: action.text } };
    case 'removal':
      return { state: REMOVALS[action.index] ? { ...state, removal: action.index } : state };
    case 'warmed':
      if (step?.kind !== 'warm') return { state };
      return finish(log, state, 'done', state.note, [
        {
          type: 'treatment',
          instrumentId: log.life.record.instrumentId,
          stringIds: step.stringIds,
          treatment: 'warmed',
        },
      ]);
  }
}

/** Strings put on one by one: what is ticked, what is heard, the stretch rounds. */
export const fittingProcedure: Procedure<FittingState, FittingAction> = {
  next(log, state): GuidedStep | undefined {
    const { own, sounding, waiting, reading, under } = fittingAt(log, state);
    if (!own || !sounding || waiting) return undefined;
    const asked = guidedOf(
      log.life,
      {
        stringId: own.plan.stringId,
        purpose: reading ? 'found' : 'left',
        ...(state.again ? { again: true as const } : {}),
      },
      log.a4Hz,
      log.nowMs,
      // In rounds a string is let go and brought back on purpose: each time is a new one.
      { toleranceCents: under ? UNDER_TOLERANCE : TOLERANCE_CENTS, leftAlready: false },
    );
    if (!asked || reading) return asked;
    // A string on its way up may stand anywhere below, also at a neighbour's pitch.
    const named = { ...asked.named, fresh: true };
    if (!under) return { ...asked, named };
    const underHz = asked.belongsHz * ratioOfCents(UNDER_CENTS);
    return { ...asked, expectedHz: underHz, named: { ...named, targetHz: underHz } };
  },
  heard,
  press,
};
