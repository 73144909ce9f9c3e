import {
  lastHzOf,
  soundedAlone,
  type GuidedLog,
  type GuidedStep,
  type KeptReading,
  type Outcome,
  type Procedure,
} from '../guided';
import { cents, ratioOfCents, stringTargetHz } from '../music';
import type { BridgeStepRecord, Draft, Source } from '../log';
import type { BridgeMemory } from '../codes';
import {
  BRIDGE_TOLERANCE,
  bridgeNow,
  leanBy,
  LEAST_SIGMA,
  type Begun,
  type BridgeNow,
  type BridgeSession,
} from './now';
import { BRIDGE_STOPPED, bridgeReadWords, clawTurnedWords, bridgeKeptWords, tiltWords, TOO_FEW_SPRINGS } from './words';

export interface BridgeState {
  /** The step of which a claw turn beyond the law was agreed to. */
  agreed: string;
}
export type BridgeAction =
  | { do: 'begin'; begun: Begun }
  /** The clamps at the nut are closed: what that did is read. */
  | { do: 'locked' }
  /** The claw is turned as told; or it is turned all the same. */
  | { do: 'claw'; slackened?: true }
  /** All are right: what was learned is kept. */
  | { do: 'keep'; source: Source }
  | { do: 'stop' }
  | { do: 'tilt'; degrees: number }
  | { do: 'springs'; springs: number };

export const BEGIN_BRIDGE: BridgeState = { agreed: '' };

/** The doubt of a reading that has none, cents. */
const USUAL_SIGMA = 0.5;

/** The bridge, the step in hand, and whether its claw turn is still doubted. */
export function bridgeAt(log: Pick<GuidedLog, 'life' | 'bench' | 'a4Hz' | 'nowMs'>, { agreed }: BridgeState) {
  const now = bridgeNow(log);
  const { advice, session } = now;
  const at = advice?.string === undefined ? undefined : advice.string - 1;
  const key = `${session?.passId}:${session?.steps.length}:${at}`;
  return {
    now,
    advice,
    session,
    at,
    string: at === undefined ? undefined : log.life.strings[at],
    key,
    doubtful: advice?.do === 'claw' && advice.lawTurns !== undefined && agreed !== key,
  };
}

/** A step of a session as the log keeps it. */
const stepDraft = (
  { life }: Pick<GuidedLog, 'life'>,
  { passId, begun: { task, order, own, held, nutOpen } }: { passId: string; begun: Begun },
  fields: Pick<BridgeStepRecord, 'step'> & Partial<BridgeStepRecord>,
): Draft => ({
  type: 'bridge-step',
  instrumentId: life.record.instrumentId,
  passId,
  task,
  order,
  ...(own ? { own } : {}),
  ...(held ? { held } : {}),
  ...(nutOpen ? { nutOpen } : {}),
  ...fields,
});

/** The bridge's setup as it is kept anew. */
const setupDraft = (
  { life }: Pick<GuidedLog, 'life'>,
  { setup, springs, memory }: BridgeNow,
  change: { springs?: number; memory?: BridgeMemory },
): Draft => ({
  type: 'bridge',
  instrumentId: life.record.instrumentId,
  springs: change.springs ?? springs,
  ...(setup?.screwPitchMm === undefined ? {} : { screwPitchMm: setup.screwPitchMm }),
  // Other springs are another bridge: what was learned of it no longer holds.
  ...(change.memory ? { memory: change.memory } : memory && change.springs === undefined ? { memory } : {}),
});

function heard({ reading }: KeptReading, _source: Source, log: GuidedLog, state: BridgeState): Outcome<BridgeState> {
  const { now, advice, session, string } = bridgeAt(log, state);
  if (!session || !string || (advice?.do !== 'read' && advice?.do !== 'set')) return { state };
  const { frequencyHz, sigmaCents } = reading;
  const { stringId, note } = string.plan;
  const off = cents(frequencyHz, stringTargetHz(string.plan, log.a4Hz)!);
  const read = { stringId, cents: off, sigmaCents: Math.max(LEAST_SIGMA, sigmaCents), frequencyHz };
  // Released from its block, the bridge leans by what the claw is not right by: that is what is to be turned back.
  const degrees = advice.do === 'read' ? leanBy(log, now, stringId, off) : undefined;
  return {
    state,
    records: [
      stepDraft(log, session, { step: advice.do, ...read }),
      ...(degrees === undefined ? [] : [stepDraft(log, session, { step: 'tilt', degrees })]),
    ],
    say: bridgeReadWords(note, off, advice.do),
  };
}

/** What was learned is kept, and every string as it was read last. */
function keepAll(log: GuidedLog, state: BridgeState, source: Source): Outcome<BridgeState> {
  const { now, advice, session } = bridgeAt(log, state);
  if (!session || !advice) return { state };
  const { held, nutOpen = false } = session.begun;
  const { wound, memory } = advice;
  return {
    state: BEGIN_BRIDGE,
    records: [
      ...leftBy(log, session, source),
      ...(held ? [] : [setupDraft(log, now, { memory })]),
      stepDraft(log, session, { step: 'end', ...(nutOpen ? {} : { wound }) }),
    ],
    say: bridgeKeptWords(held, nutOpen),
  };
}

/** Every string as the session read it last, as left. */
const leftBy = ({ life, a4Hz }: GuidedLog, session: BridgeSession, source: Source): Draft[] =>
  life.strings.flatMap(({ plan }): Draft[] => {
    const { stringId } = plan;
    const last = session.steps.findLast((s) => s.stringId === stringId && s.frequencyHz !== undefined);
    if (last?.cents === undefined || last.frequencyHz === undefined) return [];
    const { frequencyHz, cents: off, sigmaCents = USUAL_SIGMA } = last;
    return [
      {
        type: 'reading',
        instrumentId: life.record.instrumentId,
        stringId,
        purpose: 'as-left',
        source,
        frequencyHz,
        cents: off,
        sigmaCents,
        targetHz: stringTargetHz(plan, a4Hz)!,
        a4Hz,
        partials: [],
      },
    ];
  });

const LOCKED: Begun = { task: 'touch-up', order: 'least-tilt' };

function press(action: BridgeAction, log: GuidedLog, state: BridgeState): Outcome<BridgeState> {
  const { now, advice, session, key, doubtful } = bridgeAt(log, state);
  switch (action.do) {
    case 'begin': {
      if (!now.stands) return { state, say: TOO_FEW_SPRINGS };
      const begun = { passId: log.newId(), begun: action.begun };
      return { state: BEGIN_BRIDGE, records: [stepDraft(log, begun, { step: 'begin' })], say: '' };
    }
    case 'locked':
      return {
        state: BEGIN_BRIDGE,
        records: [stepDraft(log, { passId: log.newId(), begun: LOCKED }, { step: 'lock' })],
        say: '',
      };
    case 'claw':
      if (!session || advice?.do !== 'claw') return { state };
      if (doubtful) return { state: { agreed: key } };
      return {
        state,
        records: [
          stepDraft(log, session, {
            step: 'claw',
            turns: advice.turns!,
            ...(action.slackened ? { slackened: true as const } : {}),
          }),
        ],
        say: clawTurnedWords(advice.turns!, action.slackened === true),
      };
    case 'keep':
      return keepAll(log, state, action.source);
    case 'stop':
      return session
        ? { state: BEGIN_BRIDGE, records: [stepDraft(log, session, { step: 'end' })], say: BRIDGE_STOPPED }
        : { state };
    case 'tilt':
      return session
        ? {
            state,
            records: [stepDraft(log, session, { step: 'tilt', degrees: action.degrees })],
            say: tiltWords(action.degrees),
          }
        : { state };
    case 'springs':
      return {
        state,
        records: [setupDraft(log, now, { springs: action.springs })],
        say: `${action.springs} springs.`,
      };
  }
}

/** A floating bridge brought in: every string read, the claw, stops, until all are right. */
export const bridgeProcedure: Procedure<BridgeState, BridgeAction> = {
  next(log, state): GuidedStep | undefined {
    const { advice, string, at, key } = bridgeAt(log, state);
    if (!string || (advice?.do !== 'read' && advice?.do !== 'set')) return undefined;
    const { stringId, note } = string.plan;
    const targetHz = stringTargetHz(string.plan, log.a4Hz)!;
    const expected = advice.expected[at!] ?? null;
    const lastHz = expected === null ? lastHzOf(string) : targetHz * ratioOfCents(expected);
    if (advice.do === 'read') return soundedAlone(key, note, targetHz, lastHz);
    const stop = advice.stopAtCents!;
    return {
      step: { stringId, purpose: 'left' },
      named: { id: stringId, name: note, targetHz: targetHz * ratioOfCents(stop), ...(lastHz ? { lastHz } : {}) },
      others: [],
      belongsHz: targetHz,
      expectedHz: targetHz * ratioOfCents(stop),
      toleranceCents: advice.withinCents ?? BRIDGE_TOLERANCE,
      foundCents: expected === null ? null : expected - stop,
    };
  },
  heard,
  press,
};
