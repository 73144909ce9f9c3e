export { solveNet, type Alone, type Between, type Net, type Observation, type Pin } from './net';
export {
  EAR_SD,
  earRound,
  SCHOOLS,
  type EarOutcome,
  type EarRound,
  type EarStep,
  type School,
  type Sound,
} from './ear';
export { measurePair, type PairOutcome, type PairReading } from './pair';
export type { PairOptions, PairReason } from './take';
export { measureSteady, REFERENCE_KINDS, type ReferenceKind, type SteadyOutcome, type SteadyReading } from './steady';
export { LIMITED_BY, repeatsTold, type Sounding } from './reference-words';
export { averageTone, type ToneAverage, type ToneReading } from './average';
export { beatWords, intervalWords, placeOf, placeWords, SCHOOL_WORDS, soundWords } from './words';
export { createPairListener, type PairListener, type PairMoment } from './live';
export { createSteadyListener, type SteadyListener, type SteadyMoment } from './steady-live';
export { octaveStretch, type KeyboardA } from './stretch';
