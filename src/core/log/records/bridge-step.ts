import { array } from 'yup';
import { BRIDGE_ORDERS, BRIDGE_TASKS } from '../../codes';
import { MOST_CLAW_TURNS } from '../../limits';
import { signedCents } from '../../music';
import { centsField, count, hertz, id, oneOf, sigma, within, yes } from './fields';
import { ofInstrument, recordKind, type RecordOf } from './record';

/** It is pulled against a stop and goes down only, or is blocked. */
export const BRIDGE_HOLDS = ['stop', 'block'] as const;
export type BridgeHold = (typeof BRIDGE_HOLDS)[number];

/** One thing that happened while a floating bridge was tuned: a reading, a stop, a turn of the claw, a look at its tilt. */
export const bridgeStep = recordKind(
  'bridge-step',
  {
    ...ofInstrument,
    passId: id().required(),
    task: oneOf(BRIDGE_TASKS).required(),
    order: oneOf([...BRIDGE_ORDERS, 'own'] as const).required(),
    /** Locking the nut begins a session too: what it did is read. */
    step: oneOf(['begin', 'lock', 'read', 'set', 'claw', 'tilt', 'end'] as const).required(),
    stringId: id().optional(),
    cents: centsField().optional(),
    sigmaCents: sigma().optional(),
    frequencyHz: hertz().optional(),
    turns: within(-MOST_CLAW_TURNS, MOST_CLAW_TURNS).optional(),
    degrees: within(-30, 30).optional(),
    /** The strings were let down to turn the claw, and brought back after it. */
    slackened: yes().optional(),
    /** Said at the beginning: the player's own order, strings from 1; what holds the bridge; whether the clamps at the nut are open. */
    own: array().of(count(1, 60).required()).max(60).optional(),
    held: oneOf(BRIDGE_HOLDS).optional(),
    nutOpen: yes().optional(),
    /** Said at the end: how much each string was wound, cents. */
    wound: array().of(centsField().required()).max(60).optional(),
  },
  (r, names) => {
    const of = r.stringId ? names.string(r.instrumentId, r.stringId) : names.instrument(r.instrumentId);
    return `${of}: bridge, ${what(r)}`;
  },
  {
    instrumentId: 'x',
    stringId: 's1',
    passId: 'p6',
    task: 'touch-up',
    order: 'own',
    step: 'read',
    cents: -4,
    sigmaCents: 0.4,
    frequencyHz: 329,
    own: [2, 1],
    held: 'stop',
    nutOpen: true,
    slackened: true,
  },
);
export type BridgeStepRecord = RecordOf<typeof bridgeStep>;

interface Step {
  step: string;
  task: string;
  turns?: number;
  slackened?: boolean;
  degrees?: number;
  cents?: number;
}
function what(r: Step): string {
  switch (r.step) {
    case 'claw':
      return `claw turned ${signedCents(r.turns ?? 0, 2)}${r.slackened ? ', strings let down for it' : ''}`;
    case 'tilt':
      return `tilt ${signedCents(r.degrees ?? 0)}°`;
    case 'set':
      return `stopped at ${signedCents(r.cents ?? 0)}`;
    case 'read':
      return `read ${signedCents(r.cents ?? 0)}`;
    case 'lock':
      return 'nut locked';
    default:
      return `${r.task.replace('-', ' ')} ${r.step === 'begin' ? 'begun' : 'ended'}`;
  }
}
