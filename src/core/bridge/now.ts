import type { BridgeMemory } from '../codes';
import type { GuidedLog } from '../guided';
import { MOST_CLAW_TURNS } from '../limits';
import { stringTargetHz } from '../music';
import type { Bench, BridgeRecord, BridgeStepRecord, InstrumentLife, StringLife } from '../log';
import { adviseBridge, type BridgeAdvice } from './advise';
import type { BridgeEvent } from './filter';
import { fineTunerRooms, lockShifts, type LockedStep } from './locking';
import { HOUR } from '../base';
import { couplingOf, springsHold, lawOf, leanOf, USUAL, type BridgeLaw } from './coupling';

/** Springs of a bridge of which nobody said how many. */
const USUAL_SPRINGS = 3;
/** An unfinished session is gone on with for so long, ms. */
const GOES_ON_MS = 12 * HOUR;
/** What must be right, cents: nearer than elsewhere, since all strings move one another. */
export const BRIDGE_TOLERANCE = 2;
/** A reading's doubt is never taken for less, cents (house). */
export const LEAST_SIGMA = 0.2;

/** What the filter is told. @param aims where each string is to stand instead of at its target, cents */
const eventOf = (r: BridgeStepRecord, ids: readonly string[], aims: readonly number[]): BridgeEvent[] => {
  const string = r.stringId ? ids.indexOf(r.stringId) + 1 : 0;
  if ((r.step === 'read' || r.step === 'set') && string > 0 && r.cents !== undefined)
    return [{ kind: r.step, string, cents: r.cents - aims[string - 1]!, sigmaCents: r.sigmaCents }];
  if (r.step === 'claw' && r.turns !== undefined)
    return [{ kind: 'claw', turns: r.turns }, ...(r.slackened ? [{ kind: 'slackened' as const }] : [])];
  if (r.step === 'tilt' && r.degrees !== undefined) return [{ kind: 'tilt', degrees: r.degrees }];
  return [];
};

/** What is said of a session when it begins. */
export type Begun = Pick<BridgeStepRecord, 'task' | 'order' | 'own' | 'held' | 'nutOpen'>;
export interface BridgeSession {
  passId: string;
  /** Its first step: what was said when it began. */
  begun: BridgeStepRecord;
  steps: BridgeStepRecord[];
}

/** What clamps and fine tuners are told of the sessions on a bridge, oldest first; strings from 0. */
const lockedOf = (steps: readonly BridgeStepRecord[], ids: readonly string[]): LockedStep[] => {
  const last = new Map<number, number>();
  return steps.flatMap((s): LockedStep[] => {
    const string = s.stringId ? ids.indexOf(s.stringId) : -1;
    if (s.step === 'lock') return [{ kind: 'lock' }];
    if (s.step === 'end') {
      const left = [...last].map(([at, cents]) => ({ kind: 'left' as const, string: at, cents }));
      return [...left, ...(s.wound ? [{ kind: 'wound' as const, cents: s.wound }] : [])];
    }
    if (string < 0 || s.cents === undefined) return [];
    last.set(string, s.cents);
    return s.step === 'read' ? [{ kind: 'read', string, cents: s.cents }] : [];
  });
};

/** A floating bridge as the log knows it: its setup, the law it follows, the session under way and what to do next. */
export interface BridgeNow {
  setup: BridgeRecord | undefined;
  springs: number;
  memory: BridgeMemory | null;
  law: BridgeLaw | undefined;
  stands: boolean;
  session: BridgeSession | undefined;
  /** What was said when the last session began. */
  lastBegun: BridgeStepRecord | undefined;
  advice: BridgeAdvice | undefined;
  shifts: ReturnType<typeof lockShifts>;
  rooms: ReturnType<typeof fineTunerRooms> | undefined;
  /** The strings were right while the bridge was blocked, in the session before this one. */
  wasBlocked: boolean;
}

type Asked = Pick<GuidedLog, 'life' | 'bench' | 'a4Hz' | 'nowMs'>;

/** The law of an instrument's bridge; undefined where what its strings pull is not known. */
function lawIn({ life, a4Hz }: Asked, setup: BridgeRecord | undefined, springs: number, held: boolean) {
  const strings = life.strings.map(({ plan }) => ({
    targetHz: stringTargetHz(plan, a4Hz)!,
    gaugeMm: plan.gaugeMm ?? 0,
    wound: plan.material !== 'plain-steel',
  }));
  if (strings.some((s) => s.gaugeMm <= 0)) return undefined;
  const screwPitchMm = setup?.screwPitchMm ?? USUAL.screwPitchMm;
  return lawOf({ held, springs, screwPitchMm, scaleMm: life.strings[0]!.plan.lengthMm, strings });
}

/** The session under way, of all that was done on a bridge. */
function sessionIn(own: readonly BridgeStepRecord[], nowMs: number): BridgeSession | undefined {
  const last = own.at(-1);
  if (!last || last.step === 'end' || nowMs - last.atMs > GOES_ON_MS) return undefined;
  const steps = own.filter((s) => s.passId === last.passId);
  // Nobody turns a claw so far: what was written so, by whatever, is not gone on with.
  if (steps.reduce((sum, s) => sum + Math.abs(s.turns ?? 0), 0) > MOST_CLAW_TURNS) return undefined;
  return { passId: last.passId, begun: steps[0]!, steps };
}

/** The session before this one, where the bridge was blocked in it and has just been let go. */
function blockedBefore(own: readonly BridgeStepRecord[], session: BridgeSession | undefined) {
  const before = own.findLast((s) => s.passId !== session?.passId && s.step !== 'end');
  if (!session || session.begun.held || before?.held !== 'block') return undefined;
  if (session.begun.atMs - before.atMs > GOES_ON_MS) return undefined;
  return own.filter((s) => s.passId === before.passId);
}

/** What was worked out of a bench: it is asked several times before anything is written. */
const known = new WeakMap<Bench, { life: InstrumentLife; a4Hz: number; now: BridgeNow }>();

/** Everything that the log says of a floating bridge. */
export function bridgeNow(log: Asked): BridgeNow {
  const before = known.get(log.bench);
  if (before?.life === log.life && before.a4Hz === log.a4Hz) return before.now;
  const now = reckon(log);
  known.set(log.bench, { life: log.life, a4Hz: log.a4Hz, now });
  return now;
}

function reckon(log: Asked): BridgeNow {
  const { life, bench } = log;
  const { instrumentId } = life.record;
  const ids = life.strings.map((s) => s.plan.stringId);
  const setup = bench.bridges.findLast((b) => b.instrumentId === instrumentId);
  const springs = setup?.springs ?? USUAL_SPRINGS;
  const own = bench.bridgeSteps.filter((s) => s.instrumentId === instrumentId);
  const session = sessionIn(own, log.nowMs);
  const held = session?.begun.held;
  const law = lawIn(log, setup, springs, held !== undefined);
  const locked = lockedOf(own, ids);
  const shifts = lockShifts(locked, ids.length);
  const blocked = blockedBefore(own, session);
  return {
    setup,
    springs,
    memory: setup?.memory ?? null,
    law,
    stands: law !== undefined && springsHold(law, springs),
    session,
    lastBegun: own.findLast((s) => s.step === 'begin'),
    advice: session && law && adviceIn(bench, life, session, law, shifts, blocked),
    shifts,
    rooms: law && fineTunerRooms(law, locked),
    wasBlocked: blocked !== undefined,
  };
}

function adviceIn(
  bench: Bench,
  { record: { instrumentId }, strings }: InstrumentLife,
  session: BridgeSession,
  law: BridgeLaw,
  shifts: BridgeNow['shifts'],
  blocked: readonly BridgeStepRecord[] | undefined,
): BridgeAdvice {
  const ids = strings.map((s) => s.plan.stringId);
  const { task, order, own: places = [], held, nutOpen = false } = session.begun;
  // With the clamps open, each string is left off by what locking will do to it.
  const aims = shifts.map((s) => (nutOpen ? -s.cents : 0));
  const events = session.steps.flatMap((s) => eventOf(s, ids, aims));
  // What was learned when this session began: its own readings are not counted twice.
  const beganMs = session.steps[0]?.atMs ?? Infinity;
  const learned = bench.bridges.findLast((b) => b.instrumentId === instrumentId && b.atMs < beganMs)?.memory ?? null;
  // Strings that were never brought to pitch on this bridge tell nothing of how it stood level.
  const wasTuned = (s: StringLife) =>
    s.strungMs === null ||
    s.readings.some((r) => r.purpose === 'as-left' && r.atMs < (blocked?.[0]?.atMs ?? -Infinity));
  const from =
    blocked && strings.every(wasTuned)
      ? ids.map((id) => blocked.find((s) => s.step === 'read' && s.stringId === id)?.cents)
      : undefined;
  const said = adviseBridge({
    law,
    task,
    toleranceCents: BRIDGE_TOLERANCE,
    memory: held ? null : learned,
    events,
    blockedFromCents: from?.every((c) => c !== undefined) ? from : undefined,
    order: order === 'own' ? places.map((p) => p - 1) : order,
  });
  return {
    ...said,
    expected: said.expected.map((c, i) => (c === null ? null : c + aims[i]!)),
    ...(said.stopAtCents === undefined ? {} : { stopAtCents: said.stopAtCents + aims[said.string! - 1]! }),
  };
}

/**
 * The strings were right while the bridge was blocked: what it did when it was let go, as a look at its tilt, degrees.
 * @param cents the last string's reading
 */
export function leanBy({ life }: Asked, now: BridgeNow, stringId: string, cents: number): number | undefined {
  const { session, law, wasBlocked } = now;
  if (!session || !law || !wasBlocked || session.steps.some((s) => s.step === 'tilt')) return undefined;
  const read = new Map(session.steps.map((s) => [s.stringId, s.cents]));
  read.set(stringId, cents);
  const all = life.strings.flatMap((s) => read.get(s.plan.stringId) ?? []);
  if (all.length < life.strings.length) return undefined;
  return (leanOf(couplingOf(law), all) * 180) / Math.PI;
}
