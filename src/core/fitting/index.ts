export { bringUpOrder, courseLabels, fittingPlan, STRETCH_SCHOOLS, type StretchSchool } from './plan';
export { turnsFor, type FittingStep, type Picture } from './steps';
export { REMOVALS, removalWords, repeatedBreak } from './removal';
export {
  beginFitting,
  fittingAt,
  fittingProcedure,
  stepsOf,
  stringsToFit,
  UNDER_TOLERANCE,
  type FittingAction,
  type FittingState,
  type Progress,
} from './procedure';
export { dropsWords, enoughWords, fittedWords } from './words';
