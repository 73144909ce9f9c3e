import { useLayoutEffect, useState } from 'react';
import { createGuide, type GuidedStep, type Hearer, type Verdict } from '../../core/guided';
import type { Source } from '../../core/records';

/** What hears for a view that decides itself what is to be sounded next. */
export function useHearer(step: GuidedStep | undefined, onVerdict: (verdict: Verdict, source: Source) => void): Hearer {
  const [own] = useState(() => {
    const guide = createGuide();
    const latest = { step, onVerdict };
    const hearer: Hearer = {
      get step() {
        return latest.step;
      },
      hear: (heard, source) => {
        for (const verdict of guide.hear(heard)) latest.onVerdict(verdict, source);
      },
      take: (source) => {
        const answer = guide.take();
        if (answer === 'read') return 'read';
        latest.onVerdict(answer, source);
        return undefined;
      },
      view: (nowS, listening) => guide.view(nowS, listening),
      ended: () => undefined,
    };
    return { guide, latest, hearer };
  });
  // With the commit: a reading must not meet the step before.
  useLayoutEffect(() => {
    own.latest.step = step;
    own.latest.onVerdict = onVerdict;
    own.guide.setStep(step);
  });
  return own.hearer;
}
