export { bringUpOrder, fittingPlan, SCHOOLS, type School } from './plan';
export { isNylon, turnsFor, type FittedString, type FittingStep, type Picture } from './steps';
