import { lastHzOf, passOf, passRecord, soundedAlone, type GuidedLog, type Outcome, type Procedure } from '../guided';
import { ratioOfCents, stringTargetHz } from '../music';
import type { Reading } from '../pitch';
import type { Draft } from '../log';
import { medianOfPlucks } from './passes';
import { answerTo, touchSteps, type TouchStep } from './steps';
import { touchKeptWords, PLUCKS_DIFFER, pluckWords } from './words';

/** What was heard at a place, before the median is taken. */
type Pluck = Pick<Reading, 'frequencyHz' | 'sigmaCents'>;

export interface OctaveState {
  /** The place that was stepped back to, by its key. */
  chosen?: string;
  /** Plucks of one place of one pass. */
  gathered: { at: string; plucks: Pluck[] };
  /** Three plucks a place; more frets than the twelfth. */
  careful: boolean;
  more: boolean;
}

export type OctaveAction =
  | { do: 'start' }
  | { do: 'end' }
  | { do: 'next' }
  | { do: 'next-string' }
  | { do: 'back' }
  /** What was heard at this place is dropped. */
  | { do: 'again' }
  | { do: 'careful'; on: boolean }
  | { do: 'more'; on: boolean };

export const BEGIN_OCTAVE: OctaveState = { gathered: { at: '', plucks: [] }, careful: false, more: false };

export const MORE_FRETS = [1, 3, 5, 7, 15, 19];
const CAREFUL = 3;
/** Plucks of one place further apart than this are not one reading, cents. */
const ALIKE_CENTS = 1;

/** The places of a pass, the one in hand, and what was heard there. */
export function octaveAt(log: GuidedLog, state: OctaveState) {
  const steps = touchSteps(log.life, state.more ? MORE_FRETS : []);
  const pass = passOf(log, 'octave');
  const chosen = steps.find((s) => s.key === state.chosen);
  const step =
    pass &&
    (chosen ?? steps.find((s) => !pass.skipped.includes(s.key) && !answerTo(s, log.bench.touches, pass.passId)));
  const at = `${pass?.passId}/${step?.key}`;
  return {
    steps,
    pass,
    step,
    index: step ? steps.indexOf(step) : 0,
    at,
    plucks: state.gathered.at === at ? state.gathered.plucks : [],
  };
}

const semitones = ({ touch, fret }: Pick<TouchStep, 'touch' | 'fret'>) =>
  touch === 'open' ? 0 : touch === 'harmonic' ? 12 : fret!;

/** On without these places. */
function skip(log: GuidedLog, state: OctaveState, keys: string[]): Outcome<OctaveState> {
  const pass = passOf(log, 'octave');
  if (!pass) return { state };
  return {
    state,
    records: [passRecord(log, 'octave', { skipped: [...new Set([...pass.skipped, ...keys])] })],
    say: '',
  };
}

function press(action: OctaveAction, log: GuidedLog, state: OctaveState): Outcome<OctaveState> {
  const { steps, pass, step, index, at } = octaveAt(log, state);
  const { chosen: _chosen, ...rest } = state;
  switch (action.do) {
    case 'start':
      return { state: rest, records: [passRecord(log, 'octave', {}, true)], say: '' };
    case 'end':
      return { state: rest, ...(pass ? { records: [passRecord(log, 'octave', { over: true })] } : {}) };
    case 'next':
      if (!step) return { state };
      // What was chosen by stepping back is left as it was.
      return state.chosen ? { state: rest, say: '' } : skip(log, rest, [step.key]);
    case 'next-string':
      return step
        ? skip(
            log,
            rest,
            steps.filter((s) => s.stringId === step.stringId).map((s) => s.key),
          )
        : { state };
    case 'back':
      return { state: step && index > 0 ? { ...state, chosen: steps[index - 1]!.key } : state };
    case 'again':
      return { state: { ...state, gathered: { at, plucks: [] } } };
    case 'careful':
      return { state: { ...state, careful: action.on } };
    case 'more':
      return { state: { ...state, more: action.on } };
  }
}

/** The octave of every string: open, pressed at the 12th fret, harmonic, open again. */
export const octaveProcedure: Procedure<OctaveState, OctaveAction> = {
  next(log, state) {
    const { step, pass } = octaveAt(log, state);
    if (!step) return undefined;
    const times = ratioOfCents(100 * semitones(step));
    const string = log.life.strings.find((s) => s.plan.stringId === step.stringId)!;
    // Where the open string was heard, its other places are looked for from there.
    const open = log.bench.touches.findLast(
      (t) => t.passId === pass!.passId && t.stringId === step.stringId && t.touch === 'open',
    );
    const openHz = open?.frequencyHz ?? lastHzOf(string);
    return soundedAlone(step.key, step.note, stringTargetHz(string.plan, log.a4Hz)! * times, openHz && openHz * times);
  },
  heard({ reading }, source, log, state) {
    const { step, pass, plucks: before, at } = octaveAt(log, state);
    if (!step || !pass) return { state };
    const plucks = [...before, { frequencyHz: reading.frequencyHz, sigmaCents: reading.sigmaCents }];
    const wanted = state.careful ? CAREFUL : 1;
    if (plucks.length < wanted)
      return { state: { ...state, gathered: { at, plucks } }, say: pluckWords(plucks.length, wanted) };
    const median = medianOfPlucks(plucks);
    if (!median || (plucks.length > 1 && median.scatterCents > ALIKE_CENTS && step.touch !== 'fret'))
      return { state: { ...state, gathered: { at, plucks: [] } }, say: PLUCKS_DIFFER };
    // A second reading takes the place of what was read here in this pass already.
    const earlier = answerTo(step, log.bench.touches, pass.passId);
    const { chosen: _chosen, ...rest } = state;
    const touch: Draft = {
      type: 'touch',
      instrumentId: log.life.record.instrumentId,
      stringId: step.stringId,
      passId: pass.passId,
      touch: step.touch,
      ...(step.fret === null ? {} : { fret: step.fret }),
      source,
      ...median,
      ...(earlier ? { supersedes: earlier.id } : {}),
      ...(step.touch === 'open' ? { inharmonicity: reading.inharmonicity } : {}),
    };
    return { state: { ...rest, gathered: BEGIN_OCTAVE.gathered }, records: [touch], say: touchKeptWords(step) };
  },
  press,
};
