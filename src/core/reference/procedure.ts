import type { Outcome, Procedure } from '../guided';
import { A4_MAX_HZ, A4_MIN_HZ, stringTargetHz } from '../music';
import type { Bench, ReferenceSource } from '../log';
import type { Follow, FollowedReading, SteadyMoment } from '../two-strings';
import { averageTone, type ToneReading } from './average';
import { octaveStretch, type KeyboardA } from './stretch';
import { heardWords, inForceWords, measuredWords, OUT_OF_RANGE } from './words';

/** What a reference is measured with: no instrument is in hand. */
export interface ReferenceLog {
  bench: Bench;
  a4Hz: number;
}
export type Sounded = Exclude<ReferenceSource, 'standard'>;

export interface ReferenceState {
  source: Sounded;
  measuring: boolean;
  /** Repeats of its A. */
  readings: ToneReading[];
  /** The first third against the last of each tone, cents: a reed that warms up. */
  drifts: number[];
  /** A keyboard's other As, once they are asked for. */
  others?: KeyboardA[];
  /** The string that is taken as it is, by instrument and string. */
  stringKey: string;
}
export type ReferenceAction =
  | { do: 'measure'; source: Sounded }
  | { do: 'string'; key: string }
  /** What was measured is in force from now on. */
  | { do: 'use' }
  /** A keyboard's other As too. */
  | { do: 'stretch' }
  | { do: 'stop' }
  /** A standard, or one's own figure. */
  | { do: 'put'; a4Hz: number; standard: boolean };

export const BEGIN_REFERENCE: ReferenceState = {
  source: 'fork',
  measuring: false,
  readings: [],
  drifts: [],
  stringKey: '',
};

/** The As of a keyboard that tell its stretch, by octaves from A4. */
const OTHER_AS = [-1, 1, -2, 2];

/** All strings that may be taken as they are. */
export const stringsOf = ({ bench }: Pick<ReferenceLog, 'bench'>) =>
  bench.instruments.flatMap(({ record, strings }) =>
    strings.map(({ plan }) => ({ record, plan, key: `${record.instrumentId}/${plan.stringId}` })),
  );

/** What is measured, what can be used of it already, and what is asked for now. */
export function referenceAt(log: ReferenceLog, state: ReferenceState) {
  const { source, measuring, readings, drifts, others, stringKey } = state;
  const average = averageTone(readings);
  /** What can be used already, and what nothing more is to be had of. */
  const usable = measuring ? average : undefined;
  const found = usable?.verdict ? usable : undefined;
  /** Which other A is asked for; undefined where none is. */
  const octave = others && OTHER_AS[others.length];
  const strings = stringsOf(log);
  const string = strings.find((s) => s.key === stringKey) ?? strings.find((s) => /^A/.test(s.plan.note)) ?? strings[0];
  const plan = source === 'string' ? string?.plan : undefined;
  // Where the source stands, brought to the A4 by its note.
  const perA4 = plan ? stringTargetHz(plan, log.a4Hz)! / log.a4Hz : 2 ** (octave ?? 0);
  return {
    average,
    usable,
    found,
    octave,
    string,
    plan,
    perA4,
    note: plan?.note ?? `A${4 + (octave ?? 0)}`,
    sounding: measuring && (!found || octave !== undefined),
    stretch: octaveStretch(found ? [{ octaves: 0, frequencyHz: found.frequencyHz }, ...(others ?? [])] : []),
    drift: drifts.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0),
  };
}

/** Nothing measured; what is chosen stays. */
const anew = ({ source, stringKey }: ReferenceState): ReferenceState => ({ ...BEGIN_REFERENCE, source, stringKey });

/** A held tone was read: a repeat, or another A of a keyboard. */
function heardTone(tone: SteadyMoment, log: ReferenceLog, state: ReferenceState): Outcome<ReferenceState> {
  const { octave, perA4, note } = referenceAt(log, state);
  const { frequencyHz, sigmaCents, driftCents, limit } = tone;
  const say = heardWords(frequencyHz, octave === undefined ? sigmaCents : note);
  if (octave !== undefined)
    return { state: { ...state, others: [...(state.others ?? []), { octaves: octave, frequencyHz }] }, say };
  const reading: ToneReading = { frequencyHz: frequencyHz / perA4, sigmaCents, limit };
  return { state: { ...state, readings: [...state.readings, reading], drifts: [...state.drifts, driftCents] }, say };
}

function putInForce(log: ReferenceLog, state: ReferenceState): Outcome<ReferenceState> {
  const { usable, stretch } = referenceAt(log, state);
  if (!usable) return { state };
  const { frequencyHz, sigmaCents } = usable;
  if (!(frequencyHz >= A4_MIN_HZ && frequencyHz <= A4_MAX_HZ)) return { state, say: OUT_OF_RANGE };
  const { room } = log.bench;
  return {
    state: { ...state, measuring: false },
    records: [
      {
        type: 'reference',
        a4Hz: frequencyHz,
        source: state.source,
        sigmaCents,
        ...(room ? { tempC: room.tempC } : {}),
        ...(stretch === undefined ? {} : { stretchCents: stretch }),
      },
    ],
    say: measuredWords(frequencyHz),
  };
}

/** The pitch that is tuned by: measured by its repeats, or given. */
export const referenceProcedure: Procedure<ReferenceState, ReferenceAction, ReferenceLog> = {
  next: () => undefined,
  heard: (_kept, _source, _log, state) => ({ state }),
  press(action, log, state) {
    switch (action.do) {
      case 'measure':
        return { state: { ...anew(state), source: action.source, measuring: true }, say: '' };
      case 'string':
        return { state: { ...anew(state), stringKey: action.key }, say: '' };
      case 'use':
        return putInForce(log, state);
      case 'stretch': {
        const { found } = referenceAt(log, state);
        return found && state.source === 'keyboard' && !state.others ? { state: { ...state, others: [] } } : { state };
      }
      case 'stop':
        return { state: anew(state), say: '' };
      case 'put': {
        const { a4Hz, standard } = action;
        const source = standard ? { source: 'standard' as const } : {};
        return { state: anew(state), records: [{ type: 'reference', a4Hz, ...source }], say: inForceWords(a4Hz) };
      }
    }
  },
  follow(log, state): Follow | undefined {
    const { sounding, octave, found, perA4 } = referenceAt(log, state);
    if (!sounding) return undefined;
    const nominalHz = (octave === undefined ? log.a4Hz : (found?.frequencyHz ?? log.a4Hz)) * perA4;
    return { kind: 'steady', nominalHz, tone: state.source === 'player' ? 'reed' : state.source };
  },
  followed(reading: FollowedReading, log, state) {
    if (reading.kind === 'refused') return { state, say: reading.message };
    return reading.kind === 'steady' ? heardTone(reading, log, state) : { state };
  },
};
