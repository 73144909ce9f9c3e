import { soundRatio, type EarSound } from '../../../core/by-ear';
import { touched, type StringTruth } from '../../../core/simulate';

/** The simulated string as a step sounds it: open, at a fret, or one of its harmonics. */
export function soundedAs(truth: StringTruth, s: EarSound): StringTruth {
  if ('fret' in s) return touched(truth, s.fret === 0 ? { kind: 'open' } : { kind: 'fret', fret: s.fret });
  return { ...truth, targetHz: truth.targetHz * soundRatio(s) };
}
