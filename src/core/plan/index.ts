export { doneWalks, minutesPerString, planStrings, type DoneWalk, type PriorOf } from './ask';
export { chanceInShow, ifRestrung, READY, readyAgeMin, type RestringOutlook } from './outlook';
export { planShow } from './plan';
export {
  READY_SCHOOLS,
  type Plan,
  type PlanItem,
  type PlanSession,
  type PlanStep,
  type PlanString,
  type ReadySchool,
  type ShowOutlook,
} from './types';
export { walksUntil, type Walk } from './walks';
