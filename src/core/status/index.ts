export { fitLives, nextChecks, type LifeFit, type Priors } from './fits';
export { dueMs, isOneSet, instrumentStatus, type Wish, type ForecastBand, type StringStatus } from './state';
export {
  setsTaughtBy,
  learnedPriors,
  learnedOf,
  fallsByAge,
  type TaughtSet,
  newestSets,
  type Learned,
} from './learned-priors';
export { instrumentStory, type StoryWish, type StoryPoint, type StringStory, type InstrumentStory } from './story';
export { ageFromMs } from './hand-events';
export { fallenOf } from './fallen';
export { totalFallCents, totalFallSeries } from './falls';
export { repeatability } from './aligned';
export { settlingEvents, leapBefore } from './events';
export { tellingReadings, telling } from './telling';
export { commonOffset, type CommonOffset } from './common-offset';
export { roundsGain, gainWords } from './rounds-gain';
export { READY } from './ready';
export { roomSince } from './room-since';
export { stringOutlook, type StringOutlook } from './outlook';
