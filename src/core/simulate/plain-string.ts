import type { StringTruth } from './truth';

/** A string that neither falls nor knows the room, strung at time 0: what one needs beyond that is added. */
export const plainString = (stringId: string, targetHz: number, seed: number): StringTruth => ({
  stringId,
  targetHz,
  strungMs: 0,
  creepCents: 0,
  renewal: 0,
  tempCoefficient: 0,
  inharmonicity: 0,
  decayS: 2,
  rolloff: 1,
  seed,
  startCents: 0,
  turns: [],
  slips: [],
});
