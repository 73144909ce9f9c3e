export { solveNet, type Alone, type Between, type Net, type Observation, type Pin } from './net';
export { EAR_SD, earRound, type EarOutcome, type EarRound, type EarStep, type Sound } from './ear';
export { beatWords, intervalWords, placeOf, placeWords, SCHOOL_WORDS, soundWords } from './words';
