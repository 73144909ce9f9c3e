export {
  causesOf,
  priorOf,
  testsOf,
  type CauseBuild,
  type CauseString,
  type Evidence,
  type SinceLast,
  type TestResult,
} from './kinds';
export { findCause, type CauseAnswer, type CauseQuestion, type Speaks } from './finder';
export { doTest } from './answers';
export { specimenOf } from './draw';
export type { Specimen } from './specimen';
export { changesOf, guideFor, TEST_GUIDES, type TouchPlace } from './guide';
export { REMEDIES, stepsFor, treatmentFor } from './remedies';
export { findingWords, outcomeOf, partsWords } from './words';
export { answersOf, QUESTIONS } from './told';
export { bendIn, causeBuildOf } from './build';
export { NO_TEST, testAt, type TestAction, type TestState } from './probe';
export { frictionTests, inquiryTests, type InquiryWhy } from './keep';
export { beforeInquiry } from './inquiry';
export { inquiryUnderWay, isClosed, triedIn, questionsLeft, questionOf, evidenceOf } from './question';
