import { simulatedHands, usePedal } from '../../keys/usePedal';

export interface KeyActions {
  listenOrPause: () => void;
  keepOrNext: () => void;
  next: () => void;
  back: () => void;
  digit: (digit: number) => void;
  takeBack: () => void;
  tone: () => void;
  insist: () => void;
  fit: () => void;
  type: () => void;
  pluck: (hardness: number) => void;
  turn: (cents: number) => void;
}

/** The bench's keys. */
export function useKeys(a: KeyActions, simulated: boolean): void {
  usePedal({
    ' ': a.listenOrPause,
    Enter: a.keepOrNext,
    PageDown: a.keepOrNext,
    n: a.next,
    ArrowRight: a.next,
    PageUp: a.back,
    z: a.takeBack,
    t: a.tone,
    i: a.insist,
    f: a.fit,
    k: a.type,
    ...Object.fromEntries(Array.from({ length: 10 }, (_, d) => [String(d), () => a.digit(d)])),
    ...(simulated ? simulatedHands(a) : {}),
  });
}
