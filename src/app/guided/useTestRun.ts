import { useMemo, useState } from 'react';
import { changesOf, guideFor, type Changes, type TestPart } from '../../core/causes';
import { type CauseTest, type Measure } from '../../core/codes';
import { stringTargetHz } from '../../core/music';
import { type GuidedStep, lastHzOf, soundedAlone } from '../../core/guided';
import type { Reading } from '../../core/pitch';
import type { InstrumentLife, StringLife } from '../../core/records';
import { causeBuildOf } from '../../core/story';

type Touch = Extract<TestPart, { kind: 'read' }>['touch'];
interface Run {
  test: CauseTest | Measure;
  index: number;
  heard: { touch: Touch; reading: Reading }[];
  serial: number;
}
export interface TestOutcome extends Omit<Changes, 'repeat'> {
  test: CauseTest | Measure;
  /** Standard error of one reading, or half of what both times differ by where that is more. */
  sigmaCents: number;
}

const lastHz = (string: StringLife, a4Hz: number): number => lastHzOf(string) ?? stringTargetHz(string.plan, a4Hz)!;

/** One test under way on a string: its parts in turn, what was read, and what the ear is told to expect. */
export function useTestRun(life: InstrumentLife, string: StringLife, a4Hz: number) {
  const [run, setRun] = useState<Run | undefined>(undefined);
  const guide = run && guideFor(run.test, causeBuildOf(life));
  const parts = guide?.parts ?? [];
  const part = run ? parts[run.index] : undefined;
  const touch = part?.kind === 'read' ? part.touch : undefined;
  const { note, stringId } = string.plan;
  const at = life.strings.indexOf(string);
  const beside = life.strings[at + 1] ?? life.strings[at - 1] ?? string;
  const key = run ? `${stringId}:${run.test}:${run.serial}:${run.index}` : '';
  const before = run?.heard.findLast((h) => h.touch === touch)?.reading.frequencyHz;
  const guided = useMemo((): GuidedStep | undefined => {
    if (!touch) return undefined;
    const expected =
      touch === 'tone'
        ? a4Hz
        : touch === 'neighbour'
          ? lastHz(beside, a4Hz)
          : lastHz(string, a4Hz) * (touch === 'open' ? 1 : 2);
    const name = touch === 'tone' ? 'A4' : touch === 'neighbour' ? beside.plan.note : note;
    return soundedAlone(key, name, before ?? expected);
  }, [touch, key, note, string, beside, a4Hz, before]);
  return {
    run,
    guide,
    part,
    beside,
    guided,
    begin: (test: Run['test']) => setRun((r) => ({ test, index: 0, heard: [], serial: (r?.serial ?? 0) + 1 })),
    end: () => setRun(undefined),
    /** What was to be done is done. */
    acted: () => setRun((r) => r && { ...r, index: r.index + 1 }),
    /** A reading is taken. @returns what the test shows when that was its last one */
    heard: (reading: Reading): TestOutcome | undefined => {
      if (!run || !touch) return undefined;
      const heard = [...run.heard, { touch, reading }];
      if (run.index + 1 < parts.length) {
        setRun({ ...run, index: run.index + 1, heard });
        return undefined;
      }
      setRun(undefined);
      const hz = heard.map((h) => h.reading.frequencyHz);
      const { repeat, ...changes } = changesOf(run.test, hz, a4Hz);
      const sigmaCents = Math.max(repeat, ...heard.map((h) => h.reading.sigmaCents));
      return { test: run.test, ...changes, sigmaCents };
    },
  };
}
