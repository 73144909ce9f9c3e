import { useMemo } from 'react';
import {
  adviseBridge,
  couplingOf,
  fineTunerRooms,
  holds,
  leanOf,
  lockShifts,
  lawOf,
  USUAL,
  type BridgeAdvice,
  type BridgeEvent,
  type BridgeLaw,
  type LockedStep,
} from '../../../core/bridge';
import { type BridgeMemory } from '../../../core/codes';
import { MOST_CLAW_TURNS } from '../../../core/limits';
import { stringTargetHz } from '../../../core/music';
import type { BridgeStepRecord, InstrumentLife } from '../../../core/records';
import { useWorld } from '../../world/world';
import type { Draft } from '../../../core/records';

/** Springs of a bridge of which nobody said how many. */
const USUAL_SPRINGS = 3;
/** An unfinished session is gone on with for so long, ms. */
const GOES_ON_MS = 12 * 3600000;
/** What must be right, cents: nearer than elsewhere, since all strings move one another. */
export const BRIDGE_TOLERANCE = 2;

/** What the filter is told. @param aims where each string is to stand instead of at its target, cents */
const eventOf = (r: BridgeStepRecord, ids: readonly string[], aims: readonly number[]): BridgeEvent[] => {
  const string = r.stringId ? ids.indexOf(r.stringId) + 1 : 0;
  if ((r.step === 'read' || r.step === 'set') && string > 0 && r.cents !== undefined)
    return [{ kind: r.step, string, cents: r.cents - aims[string - 1]!, sigmaCents: r.sigmaCents }];
  if (r.step === 'claw' && r.turns !== undefined) return [{ kind: 'claw', turns: r.turns }];
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
export function useBridge(life: InstrumentLife) {
  const { bench, a4Hz, nowMs } = useWorld();
  const { instrumentId } = life.record;
  const setup = bench.bridges.findLast((b) => b.instrumentId === instrumentId);
  const springs = setup?.springs ?? USUAL_SPRINGS;
  const memory: BridgeMemory | null = setup?.memory ?? null;
  const ids = useMemo(() => life.strings.map((s) => s.plan.stringId), [life.strings]);
  const own = useMemo(
    () => bench.bridgeSteps.filter((s) => s.instrumentId === instrumentId),
    [bench.bridgeSteps, instrumentId],
  );
  const last = own.at(-1);
  const session = useMemo((): BridgeSession | undefined => {
    if (!last || last.step === 'end' || nowMs() - last.atMs > GOES_ON_MS) return undefined;
    const steps = own.filter((s) => s.passId === last.passId);
    // Nobody turns a claw so far: what was written so, by whatever, is not gone on with.
    if (steps.reduce((sum, s) => sum + Math.abs(s.turns ?? 0), 0) > MOST_CLAW_TURNS) return undefined;
    return { passId: last.passId, begun: steps[0]!, steps };
    // The steps grow with their last.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [last]);
  const held = session?.begun.held;
  const law = useMemo((): BridgeLaw | undefined => {
    const strings = life.strings.map(({ plan }) => ({
      targetHz: stringTargetHz(plan, a4Hz)!,
      gaugeMm: plan.gaugeMm ?? 0,
      wound: plan.material !== 'plain-steel',
    }));
    if (strings.some((s) => s.gaugeMm <= 0)) return undefined;
    const scaleMm = life.strings[0]!.plan.lengthMm;
    return lawOf({
      held: held !== undefined,
      springs,
      screwPitchMm: setup?.screwPitchMm ?? USUAL.screwPitchMm,
      scaleMm,
      strings,
    });
  }, [life.strings, a4Hz, springs, setup, held]);
  const locked = useMemo(() => lockedOf(own, ids), [own, ids]);
  const shifts = useMemo(() => lockShifts(locked, ids.length), [locked, ids]);
  const nutOpen = session?.begun.nutOpen ?? false;
  /** With the clamps open, each string is left off by what locking will do to it. */
  const aims = useMemo(() => shifts.map((s) => (nutOpen ? -s.cents : 0)), [shifts, nutOpen]);
  const events = useMemo(() => session?.steps.flatMap((s) => eventOf(s, ids, aims)) ?? [], [session, ids, aims]);
  // What was learned when this session began: its own readings are not counted twice.
  const learned = useMemo(() => {
    const beganMs = session?.steps[0]?.atMs ?? Infinity;
    return bench.bridges.findLast((b) => b.instrumentId === instrumentId && b.atMs < beganMs)?.memory ?? null;
  }, [bench.bridges, session, instrumentId]);
  /** The session before this one, where the bridge was blocked in it and has just been let go. */
  const blocked = useMemo(() => {
    const before = own.findLast((s) => s.passId !== session?.passId && s.step !== 'end');
    if (!session || held || before?.held !== 'block' || session.begun.atMs - before.atMs > GOES_ON_MS) return undefined;
    return own.filter((s) => s.passId === before.passId);
  }, [own, session, held]);
  const advice = useMemo((): BridgeAdvice | undefined => {
    if (!session || !law) return undefined;
    const { task, order, own: places = [] } = session.begun;
    const blockedFrom = blocked && ids.map((id) => blocked.find((s) => s.step === 'read' && s.stringId === id)?.cents);
    const blockedFromCents = blockedFrom?.every((c) => c !== undefined) ? blockedFrom : undefined;
    const given = {
      law,
      task,
      toleranceCents: BRIDGE_TOLERANCE,
      memory: held ? null : learned,
      events,
      blockedFromCents,
    };
    const said = adviseBridge({ ...given, order: order === 'own' ? places.map((p) => p - 1) : order });
    return {
      ...said,
      expected: said.expected.map((c, i) => (c === null ? null : c + aims[i]!)),
      ...(said.stopAtCents === undefined ? {} : { stopAtCents: said.stopAtCents + aims[said.string! - 1]! }),
    };
  }, [session, law, events, learned, held, aims, blocked, ids]);
  /** The strings were right while the bridge was blocked: what it did when it was let go, as a look at its tilt. */
  const lean = (stringId: string, cents: number): number | undefined => {
    if (!session || !law || !blocked || session.steps.some((s) => s.step === 'tilt')) return;
    const read = new Map(session.steps.map((s) => [s.stringId, s.cents]));
    read.set(stringId, cents);
    if (ids.some((id) => read.get(id) === undefined)) return;
    const angle = leanOf(
      couplingOf(law),
      ids.map((id) => read.get(id)!),
    );
    return (angle * 180) / Math.PI;
  };
  const stepDraft = (
    { passId, begun }: { passId: string; begun: Begun },
    fields: Pick<BridgeStepRecord, 'step'> & Partial<BridgeStepRecord>,
  ): Draft => {
    const { task, order, own: places, held: by, nutOpen: open } = begun;
    return {
      type: 'bridge-step',
      instrumentId,
      passId,
      task,
      order,
      ...(places ? { own: places } : {}),
      ...(by ? { held: by } : {}),
      ...(open ? { nutOpen: open } : {}),
      ...fields,
    };
  };
  const setupDraft = (change: { springs?: number; memory?: BridgeMemory }): Draft => ({
    type: 'bridge',
    instrumentId,
    springs: change.springs ?? springs,
    ...(setup?.screwPitchMm === undefined ? {} : { screwPitchMm: setup.screwPitchMm }),
    // Other springs are another bridge: what was learned of it no longer holds.
    ...(change.memory ? { memory: change.memory } : memory && change.springs === undefined ? { memory } : {}),
  });
  return {
    springs,
    memory,
    law,
    stands: law !== undefined && holds(law, springs),
    session,
    /** What was said when the last session began. */
    lastBegun: own.findLast((s) => s.step === 'begin'),
    advice,
    shifts,
    rooms: law && fineTunerRooms(law, locked),
    lean,
    stepDraft,
    setupDraft,
  };
}
