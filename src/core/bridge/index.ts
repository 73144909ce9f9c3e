export { adviseBridge, orderOf, turnsForChange, type BridgeAdvice, type BridgeJob } from './advise';
export { createBridgeFilter, memorySize, type BridgeBelief, type BridgeEvent, type BridgeFilter } from './filter';
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
