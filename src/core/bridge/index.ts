export { adviseBridge, orderOf, turnsForChange, type BridgeAdvice } from './advise';
export { memorySize, type BridgeEvent } from './filter';
export { fineTunerRooms, lockShifts, type LockedStep } from './locking';
export { returnsOf, returnVerdict } from './returns';
export { compareWays } from './ways';
export { BRIDGE_TOLERANCE, bridgeNow, type Begun } from './now';
export { BEGIN_BRIDGE, bridgeAt, bridgeProcedure } from './procedure';
export { BEGIN_RETURN, RETURN_ROUNDS, returnAt, returnProcedure } from './bar-run';
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
  BEHIND_MM,
  comesBackWords,
  LEVEL_HOW,
  fineEndWords,
  fineWords,
  inOneWords,
  lockWords,
} from './words';
export { lawOf, couplingOf, riseWithout, leanOf, USUAL, type BridgeLaw, springsHold, type Coupling } from './coupling';
