export { averageTone, type ToneAverage, type ToneReading } from './average';
export { octaveStretch, type KeyboardA } from './stretch';
export { LIMITED_BY, repeatsTold, type Sounding } from './words';
export {
  BEGIN_REFERENCE,
  referenceAt,
  referenceProcedure,
  stringsOf,
  type ReferenceAction,
  type ReferenceState,
  type Sounded,
} from './procedure';
