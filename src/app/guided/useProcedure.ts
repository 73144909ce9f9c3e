import { v4 as newId } from 'uuid';
import { useLayoutEffect, useReducer, useRef, useState } from 'react';
import { createPlayer, type GuidedLog, type Procedure } from '../../core/guided';
import type { Bench, InstrumentLife } from '../../core/log';
import type { KeyLine } from '../keys/table';
import { FaultyRecord, heldInMemory } from '../world/held';
import { useWorld } from '../world/world';
import type { StringStatus } from '../../core/status';

/** What the world knows of the log at a moment. */
interface WorldNow {
  bench: Bench;
  a4Hz: number;
  nowMs: number;
  newId: () => string;
}

/**
 * The machine that plays a guided job in a view.
 * @param logOf the log as the job needs it, at any moment
 * @param on what, being another, makes it look anew
 */
export function usePlayer<State, Action, Log>(
  procedure: Procedure<State, Action, Log>,
  begin: State,
  logOf: (now: WorldNow) => Log,
  on: readonly unknown[],
  say: (words: string) => void,
  /** What is in hand: with another, what was chosen is over. */
  inHand = '',
  /** The key that goes on without what is asked for. */
  without?: KeyLine,
) {
  const { a4Hz, append, latest, nowMs } = useWorld();
  const [, redraw] = useReducer((n: number) => n + 1, 0);
  const now = { a4Hz, append, latest, nowMs, say, logOf, without };
  const held = useRef(now);
  const [player] = useState(() =>
    createPlayer(procedure, begin, {
      log: () => {
        const { a4Hz, latest, nowMs, logOf } = held.current;
        return logOf({ bench: latest(), a4Hz, nowMs: nowMs(), newId });
      },
      write: (records) =>
        held.current.append(records).then(
          () => ({ stand: true, trouble: '' }),
          // What the browser refused is held in memory, and is in the log all the same; what is no record is not.
          (error: Error) => ({ stand: !(error instanceof FaultyRecord), trouble: heldInMemory(error) }),
        ),
      say: (words) => held.current.say(words),
      without: () => held.current.without && `${held.current.without.shown.split(',')[0]} goes on without it.`,
      changed: redraw,
    }),
  );
  // With the commit: a reading must not meet the step before.
  useLayoutEffect(() => {
    held.current = now;
  });
  const before = useRef(inHand);
  useLayoutEffect(() => {
    if (before.current === inHand) return;
    before.current = inHand;
    player.reset(begin);
  });
  // eslint-disable-next-line react-hooks/exhaustive-deps
  useLayoutEffect(() => player.refresh(), [player, a4Hz, ...on]);
  return player;
}

/** What a view adds to the log. */
interface Given {
  life: InstrumentLife;
  statuses?: readonly StringStatus[];
  /** The string that is looked at while nothing is asked for. */
  focusId?: string | undefined;
  /** The key that goes on without what is asked for. */
  without?: KeyLine;
}

const NONE: readonly StringStatus[] = [];

/** A guided job on one instrument. */
export function useProcedure<State, Action>(
  procedure: Procedure<State, Action>,
  begin: State,
  { life, statuses = NONE, focusId, without }: Given,
  say: (words: string) => void,
) {
  const logOf = (now: WorldNow): GuidedLog => {
    const { instrumentId } = life.record;
    const own = now.bench.instruments.find((i) => i.record.instrumentId === instrumentId) ?? life;
    return { ...now, life: own, statuses, focusId };
  };
  return usePlayer(procedure, begin, logOf, [life, statuses, focusId], say, life.record.instrumentId, without);
}
