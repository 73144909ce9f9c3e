import { rootMeanSquare } from 'simple-statistics';
import { EAR_SCHOOLS, type EarSchool } from '../codes';
import { lastHzOf, soundedAlone, type GuidedLog, type Outcome, type Procedure } from '../guided';
import { cents, stringTargetHz } from '../music';
import type { Draft, InstrumentLife } from '../log';
import { traitsOf } from '../strings';
import type { Follow, FollowedReading } from '../two-strings';
import { expected, octaveErrors, soundRatio } from './checkpoints';
import { EAR_SD, earRound, type EarOutcome, type EarStep } from './ear';
import { earWorth } from './skill';
import { againWords, checkpointWords, soundPlace, tunedWords } from './words';

/** A round of tuning: the player tunes and says so, only then is the string read. Strings are indices, the lowest first. */
interface Run {
  passId: string;
  /** Strings in the order of tuning, the anchor first; which is in hand, and whether it is being tuned or read. */
  order: number[];
  at: number;
  reads: boolean;
  /** Where the strings that were read stand, cents from their targets. */
  read: ReadonlyMap<number, { cents: number; sigmaCents: number }>;
}
export interface EarState {
  /** The school that was chosen; the best one where none was. */
  school?: EarSchool;
  run?: Run;
  /** A round of checkpoints: every step's two strings are sounded together in turn. */
  check?: { passId: string; at: number };
  /** Which of the string's checkpoints is looked at while it is turned; and whether it is shown at all. */
  which: number;
  shows: boolean;
}
export type EarAction =
  | { do: 'school'; school: EarSchool }
  | { do: 'begin' }
  | { do: 'check' }
  /** It is right by ear. */
  | { do: 'tuned' }
  /** On without this checkpoint. */
  | { do: 'next' }
  | { do: 'show' }
  | { do: 'other' }
  | { do: 'end' };

export const BEGIN_EAR: EarState = { which: 0, shows: false };

/** Frets of an instrument of which nobody said how many (house estimate). */
const USUAL_FRETS = 19;
/** Going round again is worth it while the strings stand so much further off than this ear leaves them. */
const WORTH = 1.15;

const lows = new WeakMap<InstrumentLife, InstrumentLife>();
/** From the lowest string: as one counts when tuning by ear. */
function lowFirst(life: InstrumentLife): InstrumentLife {
  const known = lows.get(life) ?? { ...life, strings: [...life.strings].reverse() };
  lows.set(life, known);
  return known;
}

let last: { key: string; rounds: ReadonlyMap<EarSchool, EarOutcome> } | undefined;
/** The rounds of all schools; by the notes alone: another reading is no other tuning. */
function roundsOf(notes: readonly string[], frets: number, a4Hz: number): ReadonlyMap<EarSchool, EarOutcome> {
  const key = `${notes.join()}/${frets}/${a4Hz}`;
  if (last?.key !== key)
    last = { key, rounds: new Map(EAR_SCHOOLS.map((s) => [s, earRound([...notes], s, frets, a4Hz)] as const)) };
  return last.rounds;
}

/** The round as it stands: its school, its steps, the string in hand, what is heard together. */
export function earAt(log: Pick<GuidedLog, 'life' | 'bench' | 'a4Hz'>, state: EarState) {
  const low = lowFirst(log.life);
  const notes = low.strings.map((s) => s.plan.note);
  const ids = low.strings.map((s) => s.plan.stringId);
  const rounds = roundsOf(notes, traitsOf(low.record).frets ? USUAL_FRETS : 0, log.a4Hz);
  // The one whose worst string is the best.
  const worst = (s: EarSchool) => {
    const r = rounds.get(s)!;
    return r.ok ? Math.max(...Object.values(r.round.chainSd)) : Infinity;
  };
  const possible = EAR_SCHOOLS.filter((s) => rounds.get(s)!.ok);
  const best = [...possible].sort((a, b) => worst(a) - worst(b))[0];
  const school = state.school ?? best ?? 'chain';
  const answer = rounds.get(school)!;
  const round = answer.ok ? answer.round : undefined;
  const inHand = state.run?.order[state.run.at];
  const steps = round && inHand !== undefined ? round.steps.filter((s) => s.tune === inHand + 1) : [];
  const checkStep = state.check && round?.steps[state.check.at];
  const turning = state.run !== undefined && !state.run.reads;
  const looked = turning && state.shows ? steps[state.which % Math.max(1, steps.length)] : undefined;
  return {
    low,
    notes,
    ids,
    rounds,
    possible,
    best,
    school,
    answer,
    round,
    inHand,
    steps,
    checkStep,
    turning,
    heardStep: checkStep ?? looked,
  };
}

/** The string that the round rests on. */
const anchorOf = (steps: readonly EarStep[], strings: number): number =>
  Array.from({ length: strings }, (_, i) => i).find((i) => !steps.some((s) => s.tune === i + 1)) ?? 0;

const { run: _noRun, check: _noCheck, ...none } = BEGIN_EAR;
/** Nothing under way; the school stays. */
const idle = ({ school }: EarState): EarState => ({ ...none, ...(school ? { school } : {}) });

/** What is kept of a string that was tuned by ear and is read now: a judgement against each that it was tuned by. */
function heardAlone(
  { reading }: { reading: { frequencyHz: number; sigmaCents: number } },
  log: GuidedLog,
  state: EarState,
): Outcome<EarState> {
  const { low, ids, notes, inHand, steps, school, round } = earAt(log, state);
  const { run } = state;
  const string = inHand === undefined ? undefined : low.strings[inHand];
  if (!run?.reads || inHand === undefined || !string || !round) return { state };
  const off = cents(reading.frequencyHz, stringTargetHz(string.plan, log.a4Hz)!);
  const read = new Map(run.read).set(inHand, { cents: off, sigmaCents: reading.sigmaCents });
  const over = run.at + 1 >= run.order.length;
  const records = steps.flatMap((s): Draft[] => {
    const other = read.get(s.against.string - 1);
    if (!other) return [];
    return [
      {
        type: 'judgement',
        instrumentId: low.record.instrumentId,
        stringId: string.plan.stringId,
        againstId: ids[s.against.string - 1]!,
        passId: run.passId,
        school,
        interval: s.interval,
        expectCents: s.expectCents,
        cents: off,
        againstCents: other.cents,
        sigmaCents: Math.hypot(reading.sigmaCents, other.sigmaCents),
      },
    ];
  });
  const say = tunedWords(notes[inHand]!, off);
  if (!over) return { state: { ...state, run: { ...run, at: run.at + 1, reads: false, read } }, records, say };
  const anchor = read.get(run.order[0]!)!.cents;
  const others = [...read].filter(([i]) => i !== run.order[0]).map(([, r]) => r.cents - anchor);
  const rms = others.length > 0 ? rootMeanSquare(others) : 0;
  const sds = Object.values(round.chainSd);
  const spread = earWorth(log.bench)?.cents ?? EAR_SD;
  // The anchor is left as it is.
  const leaves = (Math.sqrt(sds.reduce((t, x) => t + x * x, 0) / Math.max(1, sds.length - 1)) * spread) / EAR_SD;
  return { state: idle(state), records, say: `${say} ${againWords(rms, leaves, rms > WORTH * leaves)}` };
}

/** A checkpoint is read; on to the next one. */
function heardTogether(reading: FollowedReading, log: GuidedLog, state: EarState): Outcome<EarState> {
  const { low, ids, notes, checkStep, round } = earAt(log, state);
  if (reading.kind !== 'pair' || !checkStep || !state.check || !round) return { state };
  const { sound: one, against, interval } = checkStep;
  const { expectCents } = expected(checkStep, ids, octaveErrors(log.bench.touches, low));
  const { cents: read, sigmaCents, beatsHz } = reading;
  const over = state.check.at + 1 >= round.steps.length;
  return {
    state: over ? idle(state) : { ...state, check: { ...state.check, at: state.check.at + 1 } },
    records: [
      {
        type: 'checkpoint',
        instrumentId: low.record.instrumentId,
        stringId: ids[one.string - 1]!,
        againstId: ids[against.string - 1]!,
        anchorId: ids[anchorOf(round.steps, ids.length)]!,
        passId: state.check.passId,
        interval,
        expectCents,
        cents: read,
        sigmaCents,
        beatsHz,
        places: [soundPlace(one), soundPlace(against)],
      },
    ],
    say: checkpointWords(
      { sound: notes[one.string - 1]!, against: notes[against.string - 1]!, interval },
      read - expectCents,
      beatsHz,
      over,
    ),
  };
}

function press(action: EarAction, log: GuidedLog, state: EarState): Outcome<EarState> {
  const { round, ids, turning } = earAt(log, state);
  switch (action.do) {
    case 'school':
      return { state: idle({ ...state, school: action.school }) };
    case 'begin': {
      if (!round) return { state };
      const tuned = [...new Set(round.steps.map((s) => s.tune - 1))];
      // The anchor is read first: what the others are tuned by.
      const order = [anchorOf(round.steps, ids.length), ...tuned];
      return {
        state: { ...idle(state), run: { passId: log.newId(), order, at: 0, reads: true, read: new Map() } },
        say: '',
      };
    }
    case 'check':
      return round ? { state: { ...idle(state), check: { passId: log.newId(), at: 0 } }, say: '' } : { state };
    case 'tuned':
      return state.run ? { state: { ...state, which: 0, run: { ...state.run, reads: true } }, say: '' } : { state };
    case 'next': {
      if (!state.check || !round) return { state };
      const at = state.check.at + 1;
      return { state: at < round.steps.length ? { ...state, check: { ...state.check, at } } : idle(state) };
    }
    case 'show':
      return { state: turning ? { ...state, shows: !state.shows } : state };
    case 'other':
      return { state: { ...state, which: state.which + 1 } };
    case 'end':
      return { state: idle(state) };
  }
}

/** Tuning by ear: what to sound against what; each string read alone when the ear says that it is right; checkpoints. */
export const earProcedure: Procedure<EarState, EarAction> = {
  next(log, state) {
    const { low, inHand } = earAt(log, state);
    const string = inHand === undefined ? undefined : low.strings[inHand];
    if (!state.run?.reads || !string) return undefined;
    const { note } = string.plan;
    const key = `${state.run.passId}:${state.run.at}`;
    return soundedAlone(key, note, stringTargetHz(string.plan, log.a4Hz)!, lastHzOf(string));
  },
  heard: (kept, _source, log, state) => heardAlone(kept, log, state),
  press,
  follow(log, state): Follow | undefined {
    const { heardStep: step, low } = earAt(log, state);
    if (!step) return undefined;
    const hz = (s: EarStep['sound']) => stringTargetHz(low.strings[s.string - 1]!.plan, log.a4Hz)! * soundRatio(s);
    return { kind: 'pair', aHz: hz(step.against), bHz: hz(step.sound), ratio: step.interval };
  },
  followed: heardTogether,
};
