import type { InstrumentLife } from '../../../core/records';
import { traitsOf } from '../../../core/strings';
import type { TouchStep } from '../../guide/useTouchPass';

/** Families without frets: open string against its harmonic only. */
const UNFRETTED = new Set(['lyre-7', 'kantele-11']);
export const hasFrets = (family: string): boolean => !traitsOf(family).bowed && !UNFRETTED.has(family);

/** Open, 12th fret, harmonic, open again, a string at a time; more frets between where they are wanted. */
export function touchSteps(life: InstrumentLife, moreFrets: readonly number[]): TouchStep[] {
  const fretted = hasFrets(life.record.family);
  return life.strings.flatMap(({ plan: { stringId, note } }): TouchStep[] => {
    const open: TouchStep = { stringId, note, touch: 'open', fret: null, words: `Pluck ${note} open` };
    const harmonic: TouchStep = {
      stringId,
      note,
      touch: 'harmonic',
      fret: 12,
      words: `${note} harmonic: touch at the octave, pluck, let go`,
    };
    const frets = fretted ? [...moreFrets, 12].sort((a, b) => a - b) : [];
    return [
      open,
      ...frets.map((fret): TouchStep => ({
        stringId,
        note,
        touch: 'fret',
        fret,
        words: `${note} at fret ${fret}, pressed lightly`,
      })),
      harmonic,
      open,
    ];
  });
}
