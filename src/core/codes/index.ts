/** Words that the log and the door keep: one list each, in the room below all that use them. */
export {
  CAUSES,
  isCauseTest,
  MEASURES,
  TESTS,
  TOLD,
  type Asked,
  type Cause,
  type CauseTest,
  type Measure,
  type Outcome,
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
export { SCHOOLS, type School } from './schools';
