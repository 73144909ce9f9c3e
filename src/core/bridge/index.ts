export {
  adviseBridge,
  BRIDGE_ORDERS,
  BRIDGE_TASKS,
  orderOf,
  turnsForChange,
  type BridgeAdvice,
  type BridgeJob,
  type BridgeOrder,
  type BridgeTask,
} from './advise';
export {
  createBridgeFilter,
  isBridgeMemory,
  memorySize,
  type BridgeBelief,
  type BridgeEvent,
  type BridgeFilter,
  type BridgeMemory,
} from './filter';
export {
  couplingOf,
  holds,
  leanOf,
  riseWithout,
  lawOf,
  USUAL,
  type BridgeLaw,
  type BridgeSpec,
  type BridgeStringSpec,
  type Coupling,
} from './spec';
export {
  angleAt,
  energyAt,
  momentAt,
  pitchAt,
  restAngle,
  speakingMm,
  tensionAt,
  type ExactBridge,
  type ExactString,
} from './exact';
export { fineTunerRooms, lockShifts, type LockedStep } from './locking';
export { returnsOf, returnVerdict } from './returns';
export { compareWays, WAYS, type Way } from './ways';
