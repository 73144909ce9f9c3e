import {
  disturb,
  dive,
  holdBridge,
  lockNut,
  mend,
  moveSaddle,
  restring,
  stretchString,
  turnClaw,
  turnOnBridge,
  turnString,
  type BridgeTruth,
  type Disturbance,
  type FaultTruth,
  type StringTruth,
} from '../../../core/simulate';
import type { DemoState } from './state';

/** What hands do to the demonstration's instruments, and to its clock. */
export interface DemoControls {
  stringOf: (instrumentId: string, stringId: string | undefined) => StringTruth | undefined;
  turn: (instrumentId: string, stringId: string, cents: number) => void;
  /** Both screws of a floating bridge's claw. */
  turnClaw: (instrumentId: string, turns: number) => void;
  /** Its bridge is blocked, or let go. */
  holdBridge: (instrumentId: string, held: boolean) => void;
  /** The bar of its floating bridge goes down and comes back; the clamps at its nut are closed. */
  dive: (instrumentId: string) => void;
  lockNut: (instrumentId: string) => void;
  /** A fresh string of the same kind is put on, slack by this much. */
  restring: (instrumentId: string, stringId: string, slackCents: number) => void;
  stretch: (instrumentId: string, stringId: string) => void;
  /** Saddles, or a loose bridge under each string, are moved; strings by id, mm away from the nut. */
  moveSaddles: (instrumentId: string, movesMm: Record<string, number>) => void;
  /** What a test does to a string that may have a hidden fault; and that one put right. */
  disturb: (instrumentId: string, stringId: string, how: Disturbance) => void;
  mend: (instrumentId: string, stringId: string, kinds: readonly FaultTruth['kind'][]) => void;
  moveClock: (toMs: number) => void;
  reset: () => Promise<void>;
}

interface Needs {
  state(): DemoState | undefined;
  change(next: DemoState): void;
  reset(): Promise<void>;
  nowMs(): number;
  elapsedMs(): number;
}

export function createDemoControls({ state, change, reset, nowMs, elapsedMs }: Needs): DemoControls {
  /** What hands do to an instrument's strings, and to what they pull. */
  const handle = (
    instrumentId: string,
    act: (strings: StringTruth[], atMs: number) => { strings: StringTruth[]; bridge?: BridgeTruth },
  ): void => {
    const now = state();
    const before = now?.truth[instrumentId];
    if (!now || !before) return;
    const atMs = nowMs();
    const { strings, bridge } = act(before, atMs);
    const truth = { ...now.truth, [instrumentId]: strings };
    const bridges = bridge ? { ...now.bridges, [instrumentId]: bridge } : now.bridges;
    change({ ...now, clockMs: atMs, setAtMs: elapsedMs(), truth, bridges });
  };
  const hand = (
    instrumentId: string,
    stringId: string,
    act: (string: StringTruth, atMs: number) => StringTruth,
  ): void =>
    handle(instrumentId, (strings, atMs) => ({
      strings: strings.map((s) => (s.stringId === stringId ? act(s, atMs) : s)),
    }));
  /** @returns whether it has a floating bridge */
  const onBridge = (
    instrumentId: string,
    act: (strings: StringTruth[], bridge: BridgeTruth, atMs: number) => { strings: StringTruth[]; bridge: BridgeTruth },
  ): boolean => {
    const bridge = state()?.bridges[instrumentId];
    if (bridge) handle(instrumentId, (strings, atMs) => act(strings, bridge, atMs));
    return bridge !== undefined;
  };
  return {
    stringOf: (instrumentId, stringId) => state()?.truth[instrumentId]?.find((s) => s.stringId === stringId),
    turn: (instrumentId, stringId, cents) => {
      const turned = onBridge(instrumentId, (strings, bridge, atMs) =>
        turnOnBridge(strings, bridge, stringId, atMs, cents),
      );
      if (!turned) hand(instrumentId, stringId, (s, atMs) => turnString(s, atMs, cents));
    },
    turnClaw: (instrumentId, turns) =>
      onBridge(instrumentId, (strings, bridge, atMs) => turnClaw(strings, bridge, atMs, turns)),
    holdBridge: (instrumentId, held) =>
      onBridge(instrumentId, (strings, bridge, atMs) => holdBridge(strings, bridge, atMs, held)),
    dive: (instrumentId) => onBridge(instrumentId, dive),
    lockNut: (instrumentId) => onBridge(instrumentId, lockNut),
    restring: (instrumentId, stringId, slackCents) =>
      hand(instrumentId, stringId, (s, atMs) => restring(s, atMs, -slackCents)),
    stretch: (instrumentId, stringId) => hand(instrumentId, stringId, stretchString),
    moveSaddles: (instrumentId, movesMm) => {
      for (const [stringId, mm] of Object.entries(movesMm))
        hand(instrumentId, stringId, (s, atMs) => moveSaddle(s, atMs, mm));
    },
    disturb: (instrumentId, stringId, how) => hand(instrumentId, stringId, (s, atMs) => disturb(s, atMs, how)),
    mend: (instrumentId, stringId, kinds) => hand(instrumentId, stringId, (s) => kinds.reduce(mend, s)),
    moveClock: (toMs) => {
      const now = state();
      if (now) change({ ...now, clockMs: toMs, setAtMs: elapsedMs() });
    },
    reset,
  };
}
