import { v4 as newId } from 'uuid';
import { useLayoutEffect, useReducer, useRef, useState } from 'react';
import { createPlayer, type GuidedLog, type Procedure } from '../../core/guided';
import type { InstrumentLife, StringStatus } from '../../core/records';
import { FaultyRecord, heldInMemory } from '../world/held';
import { useWorld } from '../world/world';

/** What a view adds to the log. */
interface Given {
  life: InstrumentLife;
  statuses?: readonly StringStatus[];
  /** The string that is looked at while nothing is asked for. */
  focusId?: string | undefined;
}

const NONE: readonly StringStatus[] = [];

/** One guided job in a view: the machine that plays it, and what it asks for now. */
export function useProcedure<State, Action>(
  procedure: Procedure<State, Action>,
  begin: State,
  given: Given,
  say: (words: string) => void,
) {
  const { a4Hz, append, latest, nowMs } = useWorld();
  const [, redraw] = useReducer((n: number) => n + 1, 0);
  const now = { ...given, a4Hz, append, latest, nowMs, say };
  const held = useRef(now);
  const [player] = useState(() => {
    const log = (): GuidedLog => {
      const { life, statuses = NONE, focusId, a4Hz, latest, nowMs } = held.current;
      const bench = latest();
      const { instrumentId } = life.record;
      const own = bench.instruments.find((i) => i.record.instrumentId === instrumentId) ?? life;
      return { life: own, bench, statuses, focusId, a4Hz, nowMs: nowMs(), newId };
    };
    return createPlayer(procedure, begin, {
      log,
      write: (records) =>
        held.current.append(records).then(
          () => ({ stand: true, trouble: '' }),
          // What the browser refused is held in memory, and is in the log all the same; what is no record is not.
          (error: Error) => ({ stand: !(error instanceof FaultyRecord), trouble: heldInMemory(error) }),
        ),
      say: (words) => held.current.say(words),
      changed: redraw,
    });
  });
  // With the commit: a reading must not meet the step before.
  useLayoutEffect(() => {
    held.current = now;
  });
  const { life, statuses, focusId } = given;
  useLayoutEffect(() => player.refresh(), [player, life, statuses, focusId, a4Hz]);
  return player;
}
