export { randomFrom, type Random } from './random';
export { plainPluck } from './plain-pluck';
export { plainString } from './plain-string';
export { pluck, addNoise, addHum, type PluckSpec, type Voice } from './voice';
export {
  forkTruth,
  reedTruth,
  pluckOf,
  roomTempC,
  STEEL_PER_DEGREE,
  touched,
  trueCents,
  type FaultTruth,
  type StringTruth,
} from './truth';
export { dive, holdBridge, lockNut, makeBridge, turnClaw, turnOnBridge, type BridgeTruth } from './floating';
export { moveSaddle, restring, stretchString, turnString } from './hands';
export { octaveCents, touchCents, type FrettedTruth, type Touch } from './fretted';
export { pull, slide, type StringRun } from './run';
export { behindNut, disturb, mend, type Disturbance } from './faults';
export {
  tensionAt,
  energyAt,
  restAngle,
  type ExactString,
  type ExactBridge,
  speakingMm,
  pitchAt,
  momentAt,
} from './exact-bridge';
