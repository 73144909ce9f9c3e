export { measurePair } from './pair';
export type { PairOptions } from './take';
export { CLOCK_CENTS, measureSteady, REFERENCE_KINDS, type Limit, type ReferenceKind } from './steady';
export { createPairListener, type PairMoment } from './live';
export { createSteadyListener, type SteadyMoment } from './steady-live';
export { createGatherer, type Follow, type Followed, type FollowedReading } from './follow';
