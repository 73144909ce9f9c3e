import { shuffle } from 'simple-statistics';

/** Which strings are treated and which are left alone, and how they are matched. */
export interface Lot {
  treated: string[];
  control: string[];
}

/**
 * Draws lots within neighbours: strings in order are matched two by two, and of each two one is treated by chance, so that
 * neither position nor the player's hope decides. An odd string out is left alone.
 * @param stringIds in the instrument's own order
 * @param uniform random numbers in 0 to 1
 */
export function drawLots(stringIds: readonly string[], uniform: () => number): Lot {
  const lot: Lot = { treated: [], control: [] };
  for (let i = 0; i + 1 < stringIds.length; i += 2) {
    const [treated, control] = shuffle([stringIds[i]!, stringIds[i + 1]!], uniform);
    lot.treated.push(treated!);
    lot.control.push(control!);
  }
  return lot;
}
