export { adviseBridge, orderOf, turnsForChange, type BridgeAdvice, type BridgeJob } from './advise';
export { createBridgeFilter, memorySize, type BridgeBelief, type BridgeEvent, type BridgeFilter } from './filter';
export {
  couplingOf,
  springsHold,
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
export { BRIDGE_TOLERANCE, bridgeNow, type Begun, type BridgeNow } from './now';
export { BEGIN_BRIDGE, bridgeAt, bridgeProcedure, type BridgeAction, type BridgeState } from './procedure';
export { BEGIN_RETURN, RETURN_ROUNDS, returnAt, returnProcedure, type ReturnState } from './return-test';
export {
  bridgeSentence,
  CLAW_CAUTION,
  couplingWords,
  HELD,
  othersWords,
  ORDERS,
  ownOrderOf,
  stopWords,
  TASKS,
  WAY_WORDS,
} from './words';
