export {
  causesOf,
  testsOf,
  EFFORT_S,
  type CauseBuild,
  type CauseString,
  type Evidence,
  type SinceLast,
  type TestResult,
} from './kinds';
export { findCause, type CauseAnswer, type CauseQuestion, type Speaks } from './finder';
export { doTest, type TestSeen } from './answers';
export { specimenOf } from './draw';
export type { Specimen } from './specimen';
export {
  changesOf,
  guideFor,
  raises,
  TEST_GUIDES,
  type Changes,
  type TestGuide,
  type TestPart,
  type TouchPlace,
} from './guide';
export { REMEDIES, stepsFor, treatmentFor, type Remedy } from './remedies';
export { findingWords, outcomeOf, partsWords } from './words';
export { answersOf, QUESTIONS, type Logged } from './told';
export {
  frictionFigure,
  lubricantLasts,
  muThetaOf,
  trickWords,
  type FrictionFigure,
  type Lasting,
  type LubricantPoint,
} from './friction';
export { bendIn, causeBuildOf } from './build';
export { NO_TEST, testAt, testProcedure, type TestAction, type TestOutcome, type TestState } from './test-run';
export { frictionTests, inquiryTests, isAfterRemedy, type InquiryWhy } from './keep';
