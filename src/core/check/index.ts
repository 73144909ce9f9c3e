export { isOfPass, lastKept, leftUndone, nextStep } from './steps';
export { CONFIDENCE, HOLD_MIN, TOLERANCE_CENTS } from './tolerance';
export { checkPassOf, checkProcedure, checkStep, leadOf, type CheckAction, type CheckState } from './procedure';
export { createSession, type Session, type SessionEvent, type SessionKind } from './session';
export { BEGIN_SAMPLE, sampleLife, sampleProcedure, sampleStage, sampleTruth } from './sample';
export { chanceWords, leftUndoneWords, playedWords } from './words';
