import { useState } from 'react';
import type { CheckPass } from '../../core/records';

/** A pass of guided readings under way. What is done is read from the log, so a pass survives a reload of the tab. */
export interface Pass extends CheckPass {
  id: string;
}

interface State<Step> {
  key: string;
  pass: Pass | undefined;
  chosen: Step | undefined;
}

/**
 * The one mechanism of guided readings ('sound this, so'): a step is heard, kept, and the next one named; the player may
 * skip, step back or choose.
 * @param key names the pass in the tab's session storage
 * @param next the one thing to do next, from the log; undefined when the pass is done
 */
export function usePass<Step>(key: string, next: (pass: Pass) => Step | undefined) {
  const storageKey = `pass/${key}`;
  const stored = (): State<Step> => {
    const text = sessionStorage.getItem(storageKey);
    return { key, pass: text ? (JSON.parse(text) as Pass) : undefined, chosen: undefined };
  };
  const [state, setState] = useState(stored);
  if (state.key !== key) setState(stored());
  const put = (pass: Pass | undefined, chosen?: Step) => {
    if (pass) sessionStorage.setItem(storageKey, JSON.stringify(pass));
    else sessionStorage.removeItem(storageKey);
    setState({ key, pass, chosen });
  };
  const { pass, chosen } = state;
  const begun = (nowMs: number, skipped: string[]): Pass => ({
    id: crypto.randomUUID(),
    startedMs: Math.floor(nowMs),
    skipped,
  });
  return {
    pass,
    step: chosen ?? (pass && next(pass)),
    start: (nowMs: number) => put(begun(nowMs, [])),
    stop: () => put(undefined),
    /** This step first; without a pass under way it is the only one, all `others` being passed over. */
    choose: (step: Step, nowMs: number, others: string[] = []) => put(pass ?? begun(nowMs, others), step),
    skip: (...names: string[]) => pass && put({ ...pass, skipped: [...pass.skipped, ...names] }),
    /** The chosen step was done: back to the order of the pass. */
    clearChoice: (): boolean => {
      if (chosen) put(pass);
      return chosen !== undefined;
    },
  };
}
