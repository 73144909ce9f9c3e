export { solveNet, type Alone, type Between, type Net, type Observation, type Pin } from './net';
export { EAR_SD, earRound, type EarOutcome, type EarRound, type EarStep, type EarSound } from './ear';
export { beatWords, intervalWords, noticedWords, soundPlace, placeWords, SCHOOL_WORDS, soundWords } from './words';
export {
  expected,
  netOf,
  netTold,
  octaveErrors,
  readAlone,
  soundRatio,
  type CheckedNet,
  type Expected,
} from './checkpoints';
export { earError, earSkill, earSpread, earWorth, toldInPractice, type EarSkill } from './skill';
export { BEGIN_EAR, earAt, earProcedure, lowFirst, type EarAction, type EarState } from './procedure';
