export { averageTone, type ToneAverage, type ToneReading } from './average';
export { octaveStretch } from './stretch';
export {
  A4_RANGE,
  averageWords,
  forkWords,
  heldWords,
  LIMITED_BY,
  octavesWords,
  otherWords,
  repeatsTold,
} from './words';
export { BEGIN_REFERENCE, referenceAt, referenceProcedure, stringsOf, type Sounded } from './procedure';
