import { useRef } from 'react';
import type { InstrumentLife, TuningRecord, Draft } from '../../core/log';
import { openSpecs } from '../../core/guided';
import { setLoad } from '../../core/strings';
import { useWorld } from './world';
import { useWriting } from './writing';

/** A tuning of an instrument as it is handed about: what is kept of it beside whose it is. */
export type Tuning = Pick<TuningRecord, 'name' | 'capo' | 'strings'>;

/** The record that puts a tuning in force. */
const tuningDraft = (instrumentId: string, { name, capo, strings }: Tuning): Draft => ({
  type: 'tuning',
  instrumentId,
  name,
  ...(capo ? { capo } : {}),
  strings,
});

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
