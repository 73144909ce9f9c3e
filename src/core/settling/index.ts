export { MATERIAL_CODES, SETTLING_PRIORS, type SettlingMaterial, type SettlingPrior } from './materials';
export type { SettlingEvent, StringHistory } from './history';
export { fitSettling, FRICTION_MOST_CENTS, FRICTION_SHARE, RENEWAL_CENTS, type SettlingFit } from './fit';
export {
  chanceToHold,
  creepBetween,
  fallAhead,
  mixtureBelow,
  mixtureMean,
  mixtureMoments,
  mixtureQuantile,
  normalBelow,
  offsetNow,
  renewalOf,
  type Mixture,
} from './forecast';
export { carryTo } from './carry';
export { creepShapes } from './shapes';
export { nextCheckMin } from './next-check';
export { adviseRounds, type RoundsAdvice } from './rounds';
export { looksSlipped, type Surprise } from './slip';
export { roomAt, roomFromStrings, type RoomMoment, type RoomString } from './room';
export { totalFall, type FallReading } from './total-fall';
