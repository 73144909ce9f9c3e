export {
  CAUSES,
  causesOf,
  TESTS,
  testsOf,
  EFFORT_S,
  type Cause,
  type CauseBuild,
  type CauseString,
  type CauseTest,
  type Evidence,
  type SinceLast,
  type TestResult,
} from './kinds';
export { findCause, type CauseAnswer, type CauseQuestion } from './finder';
export { doTest, muThetaOf, specimenOf, type Seen, type Specimen } from './specimen';
export { changesOf, TEST_GUIDES, type TestGuide, type TestPart, type TouchPlace } from './guide';
export { REMEDIES, type Remedy } from './remedies';
export { findingWords, outcomeOf, type Outcome } from './words';
