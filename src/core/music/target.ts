import { noteFrequencyHz, parseNote } from './note';

export const DEFAULT_A4_HZ = 440;

/**
 * Target frequency in Hz of a note name ('A2') or of a figure in Hz, for the given A4.
 * @returns undefined when the target is neither a note nor a frequency from 8 to 6000 Hz
 */
export function targetFrequencyHz(target: string | number, a4Hz: number): number | undefined {
  if (typeof target === 'number') return target >= 8 && target <= 6000 ? target : undefined;
  const note = parseNote(target);
  return note && noteFrequencyHz(note, a4Hz);
}
