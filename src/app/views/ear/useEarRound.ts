import { v4 as newId } from 'uuid';
import { useMemo, useState } from 'react';
import { rootMeanSquare } from 'simple-statistics';
import type { EarRound } from '../../../core/by-ear';
import type { School } from '../../../core/codes';
import { cents, stringTargetHz } from '../../../core/music';
import { type GuidedStep, lastHzOf, soundedAlone } from '../../../core/guided';
import type { Reading } from '../../../core/pitch';
import type { InstrumentLife } from '../../../core/records';
import type { Draft } from '../../../core/records';

interface Run {
  passId: string;
  /** Strings in the order of tuning, the anchor first; which is in hand, and whether it is being tuned or read. */
  order: number[];
  at: number;
  reads: boolean;
  /** Where the strings that were read stand, cents from their targets. */
  read: Map<number, { cents: number; sigmaCents: number }>;
  serial: number;
}

/** A round of tuning by ear: the player tunes and says so, only then is the string read. Strings are indices here. */
export function useEarRound(life: InstrumentLife, school: School, round: EarRound | undefined, a4Hz: number) {
  const [run, setRun] = useState<Run | undefined>(undefined);
  const inHand = run?.order[run.at];
  const string = inHand === undefined ? undefined : life.strings[inHand];
  const steps = useMemo(
    () => (round && inHand !== undefined ? round.steps.filter((s) => s.tune === inHand + 1) : []),
    [round, inHand],
  );
  const key = run ? `${run.passId}:${run.at}:${run.serial}` : '';
  const reads = run?.reads ?? false;
  const guided = useMemo((): GuidedStep | undefined => {
    if (!reads || !string) return undefined;
    const { note } = string.plan;
    return soundedAlone(key, note, stringTargetHz(string.plan, a4Hz)!, lastHzOf(string));
  }, [reads, string, key, a4Hz]);
  return {
    run,
    inHand,
    steps,
    guided,
    begin: () => {
      if (!round) return;
      const tuned = [...new Set(round.steps.map((s) => s.tune - 1))];
      const anchor = life.strings.findIndex((_, i) => !tuned.includes(i));
      // The anchor is read first: what the others are tuned by.
      setRun({
        passId: newId(),
        order: [anchor, ...tuned],
        at: 0,
        reads: true,
        read: new Map(),
        serial: 0,
      });
    },
    end: () => setRun(undefined),
    /** It is right by ear. */
    tuned: () => setRun((r) => r && { ...r, reads: true, serial: r.serial + 1 }),
    /** The string is read. @returns what is kept of the judgement, and how far off it was */
    heard: (reading: Reading): { drafts: Draft[]; cents: number; over: boolean; rms: number } | undefined => {
      if (!run || inHand === undefined || !string) return undefined;
      const off = cents(reading.frequencyHz, stringTargetHz(string.plan, a4Hz)!);
      const read = new Map(run.read).set(inHand, { cents: off, sigmaCents: reading.sigmaCents });
      const over = run.at + 1 >= run.order.length;
      setRun(over ? undefined : { ...run, at: run.at + 1, reads: false, read, serial: run.serial + 1 });
      const drafts = steps.flatMap((s): Draft[] => {
        const other = read.get(s.against.string - 1);
        if (!other) return [];
        return [
          {
            type: 'judgement',
            instrumentId: life.record.instrumentId,
            stringId: string.plan.stringId,
            againstId: life.strings[s.against.string - 1]!.plan.stringId,
            passId: run.passId,
            school,
            interval: s.interval,
            expectCents: s.expectCents,
            cents: off,
            againstCents: other.cents,
            sigmaCents: Math.hypot(reading.sigmaCents, other.sigmaCents),
          },
        ];
      });
      const others = [...read]
        .filter(([i]) => i !== run.order[0])
        .map(([, r]) => r.cents - read.get(run.order[0]!)!.cents);
      return { drafts, cents: off, over, rms: others.length > 0 ? rootMeanSquare(others) : 0 };
    },
  };
}
