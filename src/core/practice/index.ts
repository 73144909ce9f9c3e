export { chanceRight, ENOUGH_TRIALS, nextCents, thresholdOf, type StaircaseAnswer } from './staircase';
export { drawTuner, turned, type TunerState, type TunerToHand } from './tuners';
export {
  actHands,
  beginHands,
  HAND_EXERCISES,
  HAND_TOLERANCE_CENTS,
  reportHands,
  handStandsAt,
  withinS,
  type HandAct,
  type HandExercise,
  type HandRun,
} from './hands';
export { answered, EAR_ANSWERS, EAR_EXERCISES, EAR_RULES, earTrial, type EarExercise, type EarTrial } from './ears';
export { beginHunt, endHunt, huntEvidence, huntQuestion, huntTests, type HuntEnd } from './hunt';
export {
  actJob,
  BEAT_JOBS,
  WHOLE_JOBS,
  beginJob,
  JOBS,
  jobEnd,
  jobOver,
  jobSeen,
  jobSound,
  jobSteps,
  jobTitle,
  jobUnit,
  type Job,
  type JobEnd,
  type JobRun,
} from './jobs';
export { practiceOf, readExercise, writeExercise, writeResult, type SharedExercise } from './file';
export {
  CARE,
  EAR_WORDS,
  earWords,
  exerciseTitle,
  HAND_WORDS,
  handWords,
  HUNT_TITLE,
  huntWords,
  nextExercise,
  answerWords,
} from './words';
