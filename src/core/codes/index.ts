/** Words that the log and the door keep: one list each, in the room below all that use them. */
export {
  CAUSES,
  isCauseTest,
  MEASURES,
  TESTS,
  TOLD,
  type ToldQuestion,
  type Cause,
  type CauseTest,
  type Measure,
  type RemedyOutcome,
  isTold,
  type Told,
} from './causes';
export {
  BRIDGE_ORDERS,
  BRIDGE_TASKS,
  isBridgeMemory,
  type BridgeMemory,
  type BridgeOrder,
  type BridgeTask,
} from './bridge';
export { EAR_SCHOOLS, type EarSchool } from './schools';
