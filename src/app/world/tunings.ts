import { useRef } from 'react';
import { ratioOfCents, stringTargetHz, transpose, type StringTarget } from '../../core/music';
import type { Bench, InstrumentLife, StringPlan, TuningRecord, Draft } from '../../core/log';
import { setLoad, type NamedSpec } from '../../core/strings';
import { useWorld } from './world';
import { useWriting } from './writing';

/** A tuning of an instrument as it is handed about: what is kept of it beside whose it is. */
export type Tuning = Pick<TuningRecord, 'name' | 'capo' | 'strings'>;

/** The tunings of an instrument by their names, as each was last used, the newest first; those deleted since left out. */
export function keptTunings({ tunings, forgotten }: Bench, instrumentId: string): TuningRecord[] {
  const own = tunings.filter((t) => t.instrumentId === instrumentId);
  const isGone = (t: TuningRecord) =>
    forgotten.some((f) => f.instrumentId === instrumentId && f.name === t.name && f.atMs >= t.atMs);
  return [...new Map(own.map((t) => [t.name, t])).values()].filter((t) => !isGone(t)).sort((a, b) => b.atMs - a.atMs);
}

/** The record that puts a tuning in force. */
const tuningDraft = (instrumentId: string, { name, capo, strings }: Tuning): Draft => ({
  type: 'tuning',
  instrumentId,
  name,
  ...(capo ? { capo } : {}),
  strings,
});

/** The strings as they pull in a tuning: open, without the capo, over their whole lengths; in order. */
export const openSpecs = (
  plans: readonly StringPlan[],
  targets: readonly StringTarget[],
  capo: number,
  a4Hz: number,
): NamedSpec[] =>
  plans.map(({ material, gaugeMm, lengthMm, unitMassKgPerM }, i) => ({
    note: transpose(targets[i]!.note, -capo),
    material,
    gaugeMm: gaugeMm ?? undefined,
    lengthMm,
    frequencyHz: stringTargetHz(targets[i]!, a4Hz)! * ratioOfCents(-100 * capo),
    unitMassKgPerM,
  }));

/** Puts a tuning in force; one that would pull a string near its break only when it is asked for twice. */
export function useTakingTuning({ record }: InstrumentLife, say: (sentence: string) => void) {
  const { a4Hz } = useWorld();
  const write = useWriting(say);
  const warned = useRef('');
  const warningsOf = ({ capo = 0, strings }: Pick<Tuning, 'capo' | 'strings'>) =>
    setLoad(openSpecs(record.strings, strings, capo, a4Hz)).warnings.filter((w) => w.string !== null);
  const take = (tuning: Tuning) => {
    const over = warningsOf(tuning).filter((w) => w.code === 'over-limit');
    const told = JSON.stringify([tuning.name, tuning.strings, tuning.capo]);
    if (over.length > 0 && warned.current !== told) {
      warned.current = told;
      const which = over.map((w) => w.message).join(' ');
      return say(`${which} If the string’s maker says it bears that, ask for it once more.`);
    }
    warned.current = '';
    void write([tuningDraft(record.instrumentId, tuning)], () =>
      say(`In use from now on: ${tuning.name}. Earlier readings are counted against it.`),
    );
  };
  return { take, warningsOf };
}
