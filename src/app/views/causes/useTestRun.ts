import { useMemo, useState } from 'react';
import { cents as centsOf, ratioOfCents, targetFrequencyHz } from '../../../core/music';
import type { GuidedStep } from '../../../core/pass';
import type { Reading } from '../../../core/pitch';
import { changesOf, TEST_GUIDES, type CauseTest, type TestPart } from '../../../core/causes';
import type { StringLife } from '../../../core/records';

/** A string that is tested may stand this far from where it was, cents either way. */
const WITHIN_CENTS = 150;

/** Where a touch sounds above the open string, cents. */
const ABOVE: Record<Extract<TestPart, { kind: 'read' }>['touch'], number> = { open: 0, fret: 1200, harmonic: 1200 };

/** One test under way: its parts in turn, what was read, and what the ear is told to expect. */
export function useTestRun(life: StringLife, a4Hz: number) {
  const [run, setRun] = useState<{ test: CauseTest; index: number; readings: Reading[]; serial: number } | undefined>(
    undefined,
  );
  const parts = run ? TEST_GUIDES[run.test].parts : [];
  const part = run ? parts[run.index] : undefined;
  const touch = part?.kind === 'read' ? part.touch : undefined;
  const last = run?.readings.at(-1);
  const { note, stringId } = life.plan;
  const at = run ? `${stringId}:${run.test}:${run.serial}:${run.index}` : '';
  const known = life.readings.at(-1);
  const guided = useMemo((): GuidedStep | undefined => {
    if (!touch) return undefined;
    const openHz = known ? known.targetHz * ratioOfCents(known.cents) : targetFrequencyHz(note, a4Hz)!;
    return {
      step: { stringId: at, purpose: 'found', confirm: false },
      named: { id: at, name: note, targetHz: last?.frequencyHz ?? openHz * ratioOfCents(ABOVE[touch]) },
      others: [],
      toleranceCents: WITHIN_CENTS,
      insist: true,
      foundCents: null,
    };
  }, [touch, at, known, note, a4Hz, last]);
  return {
    run,
    part,
    guided,
    begin: (test: CauseTest) => setRun((r) => ({ test, index: 0, readings: [], serial: (r?.serial ?? 0) + 1 })),
    end: () => setRun(undefined),
    /** What was to be done is done. */
    acted: () => setRun((r) => r && { ...r, index: r.index + 1 }),
    /** A reading is taken. @returns what the test shows when that was its last one */
    heard: (reading: Reading) => {
      if (!run) return undefined;
      const readings = [...run.readings, reading];
      if (run.index + 1 < parts.length) {
        setRun({ ...run, index: run.index + 1, readings });
        return undefined;
      }
      setRun(undefined);
      const from = readings[0]!.frequencyHz;
      const changes = changesOf(
        run.test,
        readings.map((r) => centsOf(r.frequencyHz, from)),
      );
      const sigmaCents = Math.max(...readings.map((r) => r.sigmaCents));
      return { test: run.test, ...changes, sigmaCents };
    },
  };
}
