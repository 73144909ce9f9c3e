export { averageTone, type ToneAverage, type ToneReading } from './average';
export { octaveStretch, type KeyboardA } from './stretch';
export { LIMITED_BY, repeatsTold, type Sounding } from './words';
