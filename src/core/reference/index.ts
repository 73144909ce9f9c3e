export { averageTone, type ToneAverage, type ToneReading } from './average';
export { octaveStretch } from './stretch';
export { LIMITED_BY, repeatsTold } from './words';
export { BEGIN_REFERENCE, referenceAt, referenceProcedure, stringsOf, type Sounded } from './procedure';
