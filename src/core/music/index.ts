export { capital, cents, ratioOfCents, inCents, offsetWords, plusMinus, signedCents } from './cents';
export { parseNote, nearestNote, formatNote, midiOf, A4_MAX_HZ, A4_MIN_HZ } from './note';
export { isCourses, noteSets } from './note-sets';
export { targetFrequencyHz, DEFAULT_A4_HZ } from './target';
export {
  besideWords,
  costWords,
  fifthsOffsets,
  keyboardWords,
  justOffsets,
  openChords,
  stringTargetHz,
  temperOffsets,
  transpose,
  tuningCost,
  type StringTarget,
  type Temper,
} from './tuning';
