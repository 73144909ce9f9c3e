import { v4 as newId } from 'uuid';
import { useState } from 'react';
import { type CheckPass } from '../../core/check';
import { passUnderWay } from '../../core/guided';
import { RECORD_VERSION, type PassRecord, type PassVisit } from '../../core/records';
import { heldInMemory } from '../world/held';
import { useWorld } from '../world/world';

export type Pass = PassRecord;

/**
 * The one mechanism of guided readings ('sound this, so'): a step is heard, kept, and the next one named; the player may
 * skip, step back or choose. The pass itself is in the log, so that it survives a reload, another view, a new tab.
 * @param next the one thing to do next, from the log; undefined when the pass is done
 * @param say told when the log could not be written
 */
export function usePass<Step>(
  kind: PassRecord['kind'],
  instrumentId: string,
  next: (pass: CheckPass & { passId: string }) => Step | undefined,
  say: (sentence: string) => void,
) {
  const { bench, append, nowMs, zoneMin } = useWorld();
  const key = `${kind}/${instrumentId}`;
  const [chosen, setChosen] = useState<{ key: string; step: Step } | undefined>(undefined);
  // What was written last, until the log has it: the next key must not meet the pass before.
  const [written, setWritten] = useState<{ key: string; pass: PassRecord } | undefined>(undefined);
  const logged = bench.passes.findLast((p) => p.kind === kind && p.instrumentId === instrumentId);
  const isAhead = written?.key === key && !(logged && logged.atMs >= written.pass.atMs);
  const newest = isAhead ? written.pass : logged;
  const pass = newest && passUnderWay([newest], kind, instrumentId, nowMs());
  const own = chosen?.key === key ? chosen.step : undefined;
  const write = async (change: Partial<PassRecord>, anew = false) => {
    const fields = {
      type: 'pass' as const,
      kind,
      instrumentId,
      passId: pass?.passId ?? newId(),
      startedMs: pass?.startedMs ?? Math.floor(nowMs()),
      skipped: pass?.skipped ?? [],
      over: false,
      ...(pass?.visit && !anew ? { visit: pass.visit } : {}),
      ...change,
    };
    const stamp = { id: '', version: RECORD_VERSION as PassRecord['version'], atMs: Math.floor(nowMs()), zoneMin };
    setWritten({ key, pass: { ...fields, ...stamp } });
    try {
      await append([fields]);
    } catch (error) {
      say(heldInMemory(error as Error));
    }
  };
  return {
    pass,
    step: own ?? (pass && next(pass)),
    /** @param visit what a plan asks of it */
    start: (visit?: PassVisit) => {
      setChosen(undefined);
      const begun = { passId: newId(), startedMs: Math.floor(nowMs()), skipped: [] };
      void write({ ...begun, ...(visit ? { visit } : {}) }, true);
    },
    stop: () => {
      setChosen(undefined);
      if (pass) void write({ over: true });
    },
    /** This step first; without a pass under way it is the only one, all `others` being passed over. */
    choose: (step: Step, others: string[] = []) => {
      setChosen({ key, step });
      if (!pass) void write({ skipped: others });
    },
    skip: (...names: string[]) => {
      if (pass) void write({ skipped: [...new Set([...pass.skipped, ...names])] });
    },
    /** The chosen step was done: back to the order of the pass. */
    clearChoice: (): boolean => {
      setChosen(undefined);
      return own !== undefined;
    },
  };
}
