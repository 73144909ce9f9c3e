import { useCallback, useState } from 'react';
import { nextStep, type CheckPass, type InstrumentLife, type PassStep, type StringStatus } from '../../../core/records';
import { TOLERANCE_CENTS } from '../../store/status';

/** The pass under way on one instrument; it survives a reload of the tab. */
export function useCheckPass(key: string, life: InstrumentLife | undefined, statuses: StringStatus[]) {
  const storageKey = `pass/${key}`;
  const read = (): CheckPass | undefined => {
    const text = sessionStorage.getItem(storageKey);
    return text ? (JSON.parse(text) as CheckPass) : undefined;
  };
  const [state, setState] = useState<{ key: string; pass: CheckPass | undefined; chosen: PassStep | undefined }>(
    () => ({
      key,
      pass: read(),
      chosen: undefined,
    }),
  );
  if (state.key !== key) setState({ key, pass: read(), chosen: undefined });

  const put = useCallback(
    (pass: CheckPass | undefined, chosen?: PassStep) => {
      if (pass) sessionStorage.setItem(storageKey, JSON.stringify(pass));
      else sessionStorage.removeItem(storageKey);
      setState({ key, pass, chosen });
    },
    [storageKey, key],
  );
  const { pass, chosen } = state;
  const planned = pass && life ? nextStep(life.strings, statuses, pass, TOLERANCE_CENTS) : undefined;
  const step = chosen ?? planned;
  return {
    pass,
    step,
    start: (nowMs: number) => put({ startedMs: Math.floor(nowMs), skipped: [] }),
    stop: () => put(undefined),
    choose: (next: PassStep | undefined, nowMs: number) =>
      put(pass ?? { startedMs: Math.floor(nowMs), skipped: life?.strings.map((s) => s.plan.stringId) ?? [] }, next),
    skip: (stringId: string) => pass && put({ ...pass, skipped: [...pass.skipped, stringId] }),
    /** The chosen string was read: back to the order of the pass. */
    clearChoice: (): boolean => {
      if (chosen) put(pass);
      return chosen !== undefined;
    },
  };
}
