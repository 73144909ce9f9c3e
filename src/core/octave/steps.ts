import type { InstrumentLife, TouchKind, TouchRecord } from '../log';
import { traitsOf } from '../strings';

/** One place to sound: a string, and how. */
export interface TouchStep {
  /** Names the step among those of its pass. */
  key: string;
  stringId: string;
  note: string;
  touch: TouchKind;
  fret: number | null;
  /** How often the same place was asked for before in the pass. */
  before: number;
  /** What to do, as an instruction. */
  words: string;
}

/** Open, 12th fret, harmonic, open again, a string at a time; more frets between where they are wanted. */
export function touchSteps(life: InstrumentLife, moreFrets: readonly number[]): TouchStep[] {
  const frets = traitsOf(life.record).frets ? [...moreFrets, 12].sort((a, b) => a - b) : [];
  return life.strings.flatMap(({ plan: { stringId, note } }): TouchStep[] => {
    const step = (touch: TouchKind, fret: number | null, words: string, before = 0): TouchStep => ({
      key: `${stringId}:${touch}:${fret ?? 0}:${before}`,
      stringId,
      note,
      touch,
      fret,
      before,
      words,
    });
    return [
      step('open', null, `Pluck ${note} open`),
      ...frets.map((fret) => step('fret', fret, `${note} at fret ${fret}, pressed lightly`)),
      step('harmonic', 12, `${note} harmonic: touch at the octave, pluck, let go`),
      step('open', null, `Pluck ${note} open again`, 1),
    ];
  });
}

/** What was kept of a step in a pass; undefined while it is to be done. */
export function answerTo(step: TouchStep, touches: readonly TouchRecord[], passId: string): TouchRecord | undefined {
  const alike = touches.filter(
    (t) =>
      t.passId === passId &&
      t.stringId === step.stringId &&
      t.touch === step.touch &&
      (step.touch !== 'fret' || t.fret === step.fret),
  );
  return alike[step.before];
}
