import { soundedAlone } from '../../../core/guided';
import { useMemo, useState } from 'react';
import { ratioOfCents, targetFrequencyHz } from '../../../core/music';
import type { Reading } from '../../../core/pitch';
import type { TouchRecord } from '../../../core/records';
import { usePass } from '../../guided/usePass';
import { answerTo, type TouchStep } from './steps';

/** What was heard at a place, before the median is taken. */
export type Pluck = Pick<Reading, 'frequencyHz' | 'sigmaCents'>;

const NO_PLUCKS: Pluck[] = [];

const semitones = ({ touch, fret }: Pick<TouchStep, 'touch' | 'fret'>) =>
  touch === 'open' ? 0 : touch === 'harmonic' ? 12 : fret!;

/** The octave pass: its place in the list, the plucks gathered there, and what the ear is told to expect. */
export function useTouchPass(
  instrumentId: string,
  steps: readonly TouchStep[],
  touches: readonly TouchRecord[],
  a4Hz: number,
  say: (sentence: string) => void,
) {
  const pass = usePass<TouchStep>(
    'octave',
    instrumentId,
    (p) => steps.find((s) => !p.skipped.includes(s.key) && !answerTo(s, touches, p.passId)),
    say,
  );
  const passId = pass.pass?.passId;
  const { step } = pass;
  const [gathered, setGathered] = useState({ at: '', plucks: NO_PLUCKS });
  const at = `${passId}/${step?.key}`;
  const plucks = gathered.at === at ? gathered.plucks : NO_PLUCKS;
  // Where the open string was heard, its other places are looked for from there.
  const openHz =
    step &&
    (touches.findLast((t) => t.passId === passId && t.stringId === step.stringId && t.touch === 'open')?.frequencyHz ??
      targetFrequencyHz(step.note, a4Hz)!);
  const guided = useMemo(
    () => step && soundedAlone(step.key, step.note, openHz! * ratioOfCents(100 * semitones(step))),
    [step, openHz],
  );
  const index = step ? steps.findIndex((s) => s.key === step.key) : 0;
  return {
    passId,
    index,
    step,
    guided,
    plucks,
    start: pass.start,
    end: pass.stop,
    heard: (pluck: Pluck) => setGathered({ at, plucks: [...plucks, pluck] }),
    again: () => setGathered({ at, plucks: NO_PLUCKS }),
    kept: pass.clearChoice,
    /** What was read here in this pass already: a second reading takes its place. */
    earlier: step && passId ? answerTo(step, touches, passId) : undefined,
    back: () => step && index > 0 && pass.choose(steps[index - 1]!),
    /** On to the next place; what was chosen by stepping back is left as it was. */
    skip: () => step && (pass.clearChoice() || pass.skip(step.key)),
    nextString: () => step && pass.skip(...steps.filter((s) => s.stringId === step.stringId).map((s) => s.key)),
  };
}
