export { measurePair, type PairOutcome, type PairReading } from './pair';
export type { PairOptions, PairReason } from './take';
export {
  CLOCK_CENTS,
  measureSteady,
  REFERENCE_KINDS,
  type Limit,
  type ReferenceKind,
  type SteadyOutcome,
  type SteadyReading,
} from './steady';
export { createPairListener, type PairListener, type PairMoment } from './live';
export { createSteadyListener, type SteadyListener, type SteadyMoment } from './steady-live';
export { createGatherer, type Follow, type Followed, type FollowedReading } from './follow';
