import { useMemo, useState } from 'react';
import { ratioOfCents, targetFrequencyHz } from '../../core/music';
import type { Reading, Task } from '../../core/pitch';
import type { InstrumentLife, TouchKind } from '../../core/records';

/** One place to sound: a string, and how. */
export interface TouchStep {
  stringId: string;
  note: string;
  touch: TouchKind;
  fret: number | null;
  /** What to do, as an instruction. */
  words: string;
}

/** What was heard at a place, before the median is taken. */
export type Pluck = Pick<Reading, 'frequencyHz' | 'sigmaCents'>;

/** How far from its place a touch may sound and still be it, cents either way. */
const WITHIN_CENTS = 120;

const semitones = ({ touch, fret }: Pick<TouchStep, 'touch' | 'fret'>) =>
  touch === 'open' ? 0 : touch === 'harmonic' ? 12 : fret!;

/** The list 'sound this, so' of guided readings, the place in it, and the plucks gathered there. */
export function useTouchPass(life: InstrumentLife | undefined, steps: readonly TouchStep[], a4Hz: number) {
  const [state, setState] = useState<{ passId: string; index: number } | undefined>(undefined);
  const [plucks, setPlucks] = useState<Pluck[]>([]);
  const [opens, setOpens] = useState<Record<string, number>>({});
  const step = state && steps[state.index];
  const task = useMemo((): Task | undefined => {
    if (!life || !step) return undefined;
    // Where the open string was heard, its other places are looked for from there.
    const openHz = opens[step.stringId] ?? targetFrequencyHz(step.note, a4Hz)!;
    return {
      named: {
        id: `${step.stringId}/${step.touch}/${step.fret ?? 0}`,
        name: step.note,
        targetHz: openHz * ratioOfCents(100 * semitones(step)),
      },
      others: [],
      purpose: 'found',
      toleranceCents: WITHIN_CENTS,
      insist: true,
    };
  }, [life, step, opens, a4Hz]);
  const to = (index: number) => {
    setPlucks([]);
    setState((s) => (s && index < steps.length ? { ...s, index: Math.max(0, index) } : undefined));
  };
  return {
    passId: state?.passId,
    index: state?.index ?? 0,
    step,
    task,
    plucks,
    start: () => {
      setPlucks([]);
      setState({ passId: crypto.randomUUID(), index: 0 });
    },
    end: () => setState(undefined),
    heard: (pluck: Pluck) => setPlucks((p) => [...p, pluck]),
    again: () => setPlucks([]),
    next: () => state && to(state.index + 1),
    back: () => state && to(state.index - 1),
    nextString: () => {
      if (!state || !step) return;
      const rest = steps.findIndex((s, i) => i > state.index && s.stringId !== step.stringId);
      to(rest < 0 ? steps.length : rest);
    },
    open: (stringId: string, hz: number) => setOpens((o) => ({ ...o, [stringId]: hz })),
    isFar: (cents: number) => Math.abs(cents) > WITHIN_CENTS,
  };
}
