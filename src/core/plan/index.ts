export { doneWalks, minutesPerString, planSession, planStrings, type DoneWalk, type PriorOf } from './ask';
export { canBeRestrung, ifAllRestrung, readyAgeMin, type RestringShow, type StringRestrung } from './outlook';
export { planChoices, planShow } from './plan';
export {
  EFFORTS,
  READY_SCHOOLS,
  type Effort,
  type Plan,
  type PlanAsked,
  type PlanItem,
  type PlanSession,
  type PlanStep,
  type PlanString,
  type PlanSum,
  type VisitPurpose,
} from './types';
export { holdsWords, outlookWords, showWords, endWords, sumLines, sumWords } from './words';
export { isDue, sessionOf, showOf, visitOf, WALKS, type Show } from './show';
export { rolesOf, type Role, type Roles } from './roles';
export { readShow, type WrittenShow } from './written-show';
