import { useState } from 'react';
import type { Progress } from '../../../core/fitting';
import { tabStore } from '../../world/tab';

/** The place in the plan; it survives a reload of the tab. */
export function useFitting(key: string, start: Progress | undefined) {
  const storageKey = `fitting/${key}`;
  const [progress, setProgress] = useState<Progress | undefined>(() => {
    const text = tabStore.get(storageKey);
    const before = text ? (JSON.parse(text) as Progress) : undefined;
    const goesOn = before?.startedMs && (!start || before.stringIds.join() === start.stringIds.join());
    return goesOn ? before : start;
  });
  const put = (next: Progress | undefined) => {
    if (next) tabStore.set(storageKey, JSON.stringify(next));
    else tabStore.remove(storageKey);
    setProgress(next);
  };
  return { progress, put };
}
