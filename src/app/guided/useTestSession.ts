import { useEffect, useState } from 'react';
import type { CauseTest, Measure } from '../../core/codes';
import type { InstrumentLife, StringLife } from '../../core/records';
import { forkTruth, touched, type StringTruth } from '../../core/simulate';
import { useHearer } from './useHearer';
import { useListening } from './useListening';
import { useWorld } from '../world/world';
import { useTestRun, type TestOutcome } from './useTestRun';

/** Tests by hand and ear on one string: what is to be done now, the ear, and the simulated hands where there are such. */
export function useTestSession(life: InstrumentLife, string: StringLife, onOutcome: (outcome: TestOutcome) => void) {
  const { a4Hz, demo, nowMs } = useWorld();
  const { instrumentId } = life.record;
  const { stringId } = string.plan;
  const [message, say] = useState('');
  const test = useTestRun(life, string, a4Hz);
  const { run, guide, part, beside } = test;
  const sound = useListening(
    useHearer(test.guided, (verdict) => {
      if (part?.kind !== 'read') return;
      if (verdict.kind !== 'keep') {
        say(verdict.message);
        return;
      }
      const outcome = test.heard(verdict.reading);
      say('Heard.');
      if (outcome) onOutcome(outcome);
    }),
    nowMs,
    say,
  );
  const deaf = sound.listening === undefined;
  const sounding = part?.kind === 'read';
  // The ear opens with the first part that is sounded.
  useEffect(() => {
    if (sounding && deaf) sound.open();
    // Only when a part comes: somebody may have paused it on purpose.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [sounding]);

  const done = () => {
    if (part?.kind !== 'do') return;
    const { how } = part;
    // Another room moves all strings.
    const moved = how === 'warm' ? life.strings.map((s) => s.plan.stringId) : [stringId];
    if (how) for (const id of moved) demo?.disturb(instrumentId, id, how);
    if (part.waitS) demo?.moveClock(nowMs() + 1000 * part.waitS);
    say('');
    test.acted();
  };
  const heardAs = (): StringTruth => {
    const touch = part?.kind === 'read' ? part.touch : 'open';
    if (touch === 'tone') return forkTruth(a4Hz);
    const truth = demo!.stringOf(instrumentId, touch === 'neighbour' ? beside.plan.stringId : stringId)!;
    return touched(
      truth,
      touch === 'fret' ? { kind: 'fret', fret: 12 } : { kind: touch === 'harmonic' ? touch : 'open' },
    );
  };
  return {
    run,
    part,
    guide,
    sound,
    message,
    say,
    sounding,
    begin: (which: CauseTest | Measure) => {
      say('');
      test.begin(which);
    },
    end: test.end,
    again: () => run && test.begin(run.test),
    /** Yes, done, take it. @returns whether a test was under way */
    enter: (): boolean => {
      if (part?.kind === 'do') done();
      else if (part && deaf) sound.open();
      else if (part) sound.take();
      return part !== undefined;
    },
    pluck: (hardness: number) => {
      if (demo && sounding) sound.pluck(heardAs, hardness);
    },
    /** What to do now, in a sentence; undefined where no test is under way. */
    instruction:
      sounding && deaf
        ? 'Press Space to listen'
        : part && part.kind === 'read' && part.touch === 'neighbour'
          ? `${part.words}: ${beside.plan.note}`
          : part?.words,
    heading: guide && `${guide.title}, ${run!.index + 1} of ${guide.parts.length}`,
    /** The string that sounds, where it is another than the one in hand. */
    sounds:
      part?.kind === 'read' && part.touch === 'neighbour'
        ? beside.plan.note
        : part?.kind === 'read' && part.touch === 'tone'
          ? 'A4'
          : undefined,
  };
}
export type TestSession = ReturnType<typeof useTestSession>;
