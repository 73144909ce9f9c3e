import { useEffect } from 'react';
import { NO_TEST, testAt, type TestAction, type TestState } from '../../core/causes';
import type { Procedure } from '../../core/guided';
import type { InstrumentLife } from '../../core/log';
import { behindNut, forkTruth, touched, type StringTruth } from '../../core/simulate';
import { useWorld } from '../world/world';
import { useListening } from './useListening';
import { useProcedure } from './useProcedure';

/** Tests by hand and ear: what is to be done now, the ear, and the simulated hands where there are such. */
export function useProbe<Why>(
  procedure: Procedure<TestState<Why>, TestAction<Why>>,
  life: InstrumentLife,
  say: (words: string) => void,
) {
  const { a4Hz, demo, nowMs } = useWorld();
  const { instrumentId } = life.record;
  const player = useProcedure(procedure, NO_TEST as TestState<Why>, { life }, say);
  const { run, guide, part, string, beside } = testAt({ life, a4Hz }, player.state);
  const sound = useListening(player, nowMs, say);
  const deaf = sound.listening === undefined;
  const sounding = part?.kind === 'read';
  /** The string is pulled sharp: its pitch is watched. */
  const pulled = part?.kind === 'do' && part.raises === true ? string : undefined;
  // The ear opens with the first part that is sounded.
  useEffect(() => {
    if (sounding && deaf) sound.open();
    // Only when a part comes: somebody may have paused it on purpose.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [sounding]);

  const done = () => {
    if (part?.kind !== 'do' || !run) return;
    const { how } = part;
    // Another room moves all strings.
    const moved = how === 'warm' ? life.strings.map((s) => s.plan.stringId) : [run.stringId];
    if (how) for (const id of moved) demo?.disturb(instrumentId, id, how);
    if (part.waitS) demo?.moveClock(nowMs() + 1000 * part.waitS);
    player.press({ do: 'done' });
  };
  const touch = part?.kind === 'read' ? part.touch : undefined;
  const heardAs = (): StringTruth => {
    if (touch === 'tone') return forkTruth(a4Hz);
    const truth = demo!.stringOf(instrumentId, touch === 'neighbour' ? beside!.plan.stringId : run!.stringId)!;
    const { lengthMm, headMm } = string!.plan;
    if (touch === 'behind') return behindNut(truth, nowMs(), (headMm ?? lengthMm) / lengthMm);
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
    sounding,
    pulled,
    press: player.press.bind(player),
    end: () => player.press({ do: 'end' }),
    again: () => player.press({ do: 'again' }),
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
        : touch === 'neighbour'
          ? `${part!.words}: ${beside!.plan.note}`
          : part?.words,
    heading: guide && `${guide.title}, ${run!.index + 1} of ${guide.parts.length}`,
    /** The string that sounds, where it is another than the one in hand. */
    sounds: touch === 'neighbour' ? beside!.plan.note : touch === 'tone' ? 'A4' : undefined,
  };
}
