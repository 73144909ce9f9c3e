import { cents, ratioOfCents, targetFrequencyHz } from '../../core/music';
import type { StringPlace, Task } from '../../core/pitch';
import type { InstrumentLife } from '../../core/records';

/** The named string and those it could be taken for, as the listener needs them. */
export function placesOf(
  life: InstrumentLife,
  stringId: string,
  a4Hz: number,
): Pick<Task, 'named' | 'others'> | undefined {
  const places = life.strings.map((s): StringPlace => {
    const targetHz = targetFrequencyHz(s.plan.note, a4Hz)!;
    const last = s.readings[s.readings.length - 1];
    return {
      id: s.plan.stringId,
      name: s.plan.note,
      targetHz,
      ...(last ? { lastHz: targetHz * ratioOfCents(last.cents) } : {}),
    };
  });
  const named = places.find((p) => p.id === stringId);
  if (!named) return undefined;
  // Two strings of a course share their pitch: only others can be mistaken.
  return {
    named,
    others: places.filter((p) => p.id !== named.id && Math.abs(cents(p.targetHz, named.targetHz)) > 50),
  };
}
