export {
  CAUSES,
  causesOf,
  TESTS,
  testsOf,
  EFFORT_S,
  isCauseTest,
  MEASURES,
  type Measure,
  type Cause,
  type CauseBuild,
  type CauseString,
  type CauseTest,
  type Evidence,
  type SinceLast,
  type TestResult,
} from './kinds';
export { findCause, type CauseAnswer, type CauseQuestion, type Speaks } from './finder';
export { doTest, type Seen } from './answers';
export { specimenOf } from './draw';
export type { Specimen } from './specimen';
export {
  changesOf,
  guideFor,
  TEST_GUIDES,
  type Changes,
  type TestGuide,
  type TestPart,
  type TouchPlace,
} from './guide';
export { REMEDIES, stepsFor, treatmentFor, type Remedy } from './remedies';
export { findingWords, outcomeOf, type Outcome } from './words';
export { answersOf, QUESTIONS, TOLD, type Asked, type Logged, type Told } from './told';
export {
  frictionFigure,
  lubricantLasts,
  muThetaOf,
  trickWords,
  type FrictionFigure,
  type Lasting,
  type LubricantPoint,
} from './friction';
