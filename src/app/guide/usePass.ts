import { useState } from 'react';
import { passUnderWay, type CheckPass } from '../../core/pass';
import type { PassRecord } from '../../core/records';
import { useWorld } from '../store/world';

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
  const { bench, append, nowMs } = useWorld();
  const key = `${kind}/${instrumentId}`;
  const [chosen, setChosen] = useState<{ key: string; step: Step } | undefined>(undefined);
  const pass = passUnderWay(bench.passes, kind, instrumentId, nowMs());
  const own = chosen?.key === key ? chosen.step : undefined;
  const write = (change: Partial<PassRecord>) =>
    append([
      {
        type: 'pass',
        kind,
        instrumentId,
        passId: pass?.passId ?? crypto.randomUUID(),
        startedMs: pass?.startedMs ?? Math.floor(nowMs()),
        skipped: pass?.skipped ?? [],
        over: false,
        ...change,
      },
    ]).then(
      () => undefined,
      (error: Error) => say(error.message),
    );
  return {
    pass,
    step: own ?? (pass && next(pass)),
    start: () => {
      setChosen(undefined);
      void write({ passId: crypto.randomUUID(), startedMs: Math.floor(nowMs()), skipped: [] });
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
