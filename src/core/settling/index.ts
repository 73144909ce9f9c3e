export { MATERIAL_CODES, SETTLING_PRIORS, type SettlingMaterial, type SettlingPrior } from './materials';
export { LARGEST_CENTS, type HandEvent, type SettlingEvent, type StringHistory } from './history';
export { fitSettling, type SettlingFit } from './fit';
export { FRICTION_MOST_CENTS, FRICTION_SHARE, RENEWAL_CENTS } from './process';
export {
  chanceToHold,
  chanceToStay,
  chanceWhenTuned,
  creepBetween,
  fallAhead,
  mixtureBetween,
  mixtureMean,
  mixtureMoments,
  mixtureQuantile,
  normalBelow,
  offsetNow,
  renewalOf,
  slopeOf,
  standAhead,
  standAt,
  warmthOf,
  type Mixture,
  type Stands,
} from './forecast';
export { broughtUp, carryTo } from './carry';
export { creepShapes } from './shapes';
export { nextCheckMin, type CheckRule } from './next-check';
export { adviseRounds, type RoundsAdvice } from './rounds';
export { leapOf, type Surprise } from './slip';
export { roomAt, roomFromStrings, type RoomString } from './room';
export { totalFall } from './total-fall';
export { fallWithoutHands, gainOfRound } from './without-hands';
export { keptOf } from './kept';
