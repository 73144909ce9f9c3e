import { useMemo } from 'react';
import {
  adviseBridge,
  holds,
  lawOf,
  USUAL,
  type BridgeAdvice,
  type BridgeEvent,
  type BridgeLaw,
  type BridgeMemory,
  type BridgeOrder,
  type BridgeTask,
} from '../../../core/bridge';
import { stringTargetHz } from '../../../core/music';
import type { BridgeStepRecord, InstrumentLife } from '../../../core/records';
import { useWorld, type Draft } from '../../store/world';

/** Springs of a bridge of which nobody said how many. */
const USUAL_SPRINGS = 3;
/** An unfinished session is gone on with for so long, ms. */
const GOES_ON_MS = 12 * 3600000;
/** What must be right, cents: nearer than elsewhere, since all strings move one another. */
export const BRIDGE_TOLERANCE = 2;

const eventOf = (r: BridgeStepRecord, ids: readonly string[]): BridgeEvent[] => {
  const string = r.stringId ? ids.indexOf(r.stringId) + 1 : 0;
  if ((r.step === 'read' || r.step === 'set') && string > 0 && r.cents !== undefined)
    return [{ kind: r.step, string, cents: r.cents, sigmaCents: r.sigmaCents }];
  if (r.step === 'claw' && r.turns !== undefined) return [{ kind: 'claw', turns: r.turns }];
  if (r.step === 'tilt' && r.degrees !== undefined) return [{ kind: 'tilt', degrees: r.degrees }];
  return [];
};

export interface BridgeSession {
  passId: string;
  task: BridgeTask;
  order: BridgeOrder;
  steps: BridgeStepRecord[];
}

/** A floating bridge as the log knows it: its setup, the law it follows, the session under way and what to do next. */
export function useBridge(life: InstrumentLife) {
  const { bench, a4Hz, nowMs } = useWorld();
  const { instrumentId } = life.record;
  const setup = bench.bridges.findLast((b) => b.instrumentId === instrumentId);
  const springs = setup?.springs ?? USUAL_SPRINGS;
  const memory: BridgeMemory | null = setup?.memory ?? null;
  const law = useMemo((): BridgeLaw | undefined => {
    const strings = life.strings.map(({ plan }) => ({
      targetHz: stringTargetHz(plan, a4Hz)!,
      gaugeMm: plan.gaugeMm ?? 0,
      wound: plan.material !== 'plain-steel',
    }));
    if (strings.some((s) => s.gaugeMm <= 0)) return undefined;
    const scaleMm = life.strings[0]!.plan.lengthMm;
    return lawOf({ springs, screwPitchMm: setup?.screwPitchMm ?? USUAL.screwPitchMm, scaleMm, strings });
  }, [life.strings, a4Hz, springs, setup]);
  const ids = useMemo(() => life.strings.map((s) => s.plan.stringId), [life.strings]);
  const own = bench.bridgeSteps.filter((s) => s.instrumentId === instrumentId);
  const last = own.at(-1);
  const session = useMemo((): BridgeSession | undefined => {
    if (!last || last.step === 'end' || nowMs() - last.atMs > GOES_ON_MS) return undefined;
    const { passId, task, order } = last;
    return { passId, task, order, steps: own.filter((s) => s.passId === passId) };
    // The steps grow with their last.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [last]);
  const events = useMemo(() => session?.steps.flatMap((s) => eventOf(s, ids)) ?? [], [session, ids]);
  // What was learned when this session began: its own readings are not counted twice.
  const learned = useMemo(() => {
    const beganMs = session?.steps[0]?.atMs ?? Infinity;
    return bench.bridges.findLast((b) => b.instrumentId === instrumentId && b.atMs < beganMs)?.memory ?? null;
  }, [bench.bridges, session, instrumentId]);
  const advice = useMemo((): BridgeAdvice | undefined => {
    if (!session || !law) return undefined;
    const { task, order } = session;
    return adviseBridge({ law, task, toleranceCents: BRIDGE_TOLERANCE, order, memory: learned, events });
  }, [session, law, events, learned]);
  const stepDraft = (
    of: Pick<BridgeSession, 'passId' | 'task' | 'order'>,
    fields: Pick<BridgeStepRecord, 'step'> & Partial<BridgeStepRecord>,
  ): Draft => ({
    type: 'bridge-step',
    instrumentId,
    passId: of.passId,
    task: of.task,
    order: of.order,
    ...fields,
  });
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
    advice,
    stepDraft,
    setupDraft,
  };
}
