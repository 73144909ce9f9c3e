import { useMemo } from 'react';
import type { EarStep, Sound } from '../../../core/by-ear';
import { stringTargetHz } from '../../../core/music';
import type { InstrumentLife } from '../../../core/records';
import { touched, type StringTruth } from '../../../core/simulate';
import type { Follow } from '../../sound/messages';
import { soundRatio } from '../../../core/story';

/** The two notes of a step, as they are to sound when both strings are right; undefined where no step is heard. */
export function usePair(life: InstrumentLife, step: EarStep | undefined, a4Hz: number): Follow | undefined {
  return useMemo(() => {
    if (!step) return undefined;
    const hz = (s: EarStep['sound']) => stringTargetHz(life.strings[s.string - 1]!.plan, a4Hz)! * soundRatio(s);
    return { kind: 'pair' as const, aHz: hz(step.against), bHz: hz(step.sound), ratio: step.interval };
  }, [life, step, a4Hz]);
}

/** The simulated string as a step sounds it: open, at a fret, or one of its harmonics. */
export function soundedAs(truth: StringTruth, s: Sound): StringTruth {
  if ('fret' in s) return touched(truth, s.fret === 0 ? { kind: 'open' } : { kind: 'fret', fret: s.fret });
  return { ...truth, targetHz: truth.targetHz * soundRatio(s) };
}
