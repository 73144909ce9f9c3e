export { solveNet, type Alone, type Between, type Observation } from './net';
export { EAR_SD, earRound, type EarRound, type EarStep, type EarSound } from './ear';
export {
  beatsLine,
  beatWords,
  errorsWords,
  expectedWords,
  fretsWords,
  intervalWords,
  partialsWords,
  stopsWords,
  noticedWords,
  SCHOOL_WORDS,
  soundWords,
} from './words';
export {
  expected,
  netOf,
  netTold,
  octaveErrors,
  readAlone,
  apartAlone,
  soundRatio,
  type CheckedNet,
  type Expected,
} from './checkpoints';
export { earError, earSkill, earSpread, earWorth, toldInPractice } from './skill';
export { BEGIN_EAR, earAt, earProcedure } from './procedure';
export { beatTrend, isRight, standStill, turnWords, unisonWay, type BeatTrend } from './beats';
