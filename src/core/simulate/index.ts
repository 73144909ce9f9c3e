export { randomFrom, type Random } from './random';
export { pluck, addNoise, addHum, type PluckSpec, type Voice } from './voice';
export { pluckOf, roomTempC, trueCents, type StringTruth } from './truth';
export { restring, stretchString, turnString } from './hands';
export { touchCents, type FrettedTruth, type Touch } from './fretted';
