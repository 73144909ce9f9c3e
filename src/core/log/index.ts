export * from './records';
export type { Written } from './order';
export { repeatability, type Repeatability } from './aligned';
export { leapBefore, settlingEvents } from './events';
export { ageFromMs } from './hands';
export { telling, tellingReadings } from './thin';
export { groupBy, slices, standing, type InstrumentLife, type StringLife } from './life';
export { byHeading, isWanted, type Search } from './search';
export { GENERAL, headingOf, keyOf, partOf, type Heading } from './parts';
export { chapterOf, idsOf, intoChapters, isChapter, newestMs, readingsOf, withBytes, type Chapter } from './chapter';
export { distinct, isSame, merge, type Merged } from './merge';
export type { Contest } from './succession';
export { describedIn, freeName, type Bench } from './bench';
export { createLogIndex, indexOf, readBench, type LogEntries, type LogIndex } from './log-index';
export { breaksAt, lastLeft, lastSlip, totalFallCents, totalFallSeries, type PastLife } from './lives';
export {
  instrumentStatus,
  stringStanding,
  type ForecastBand,
  type StringState,
  type StringStatus,
  type Wish,
} from './state';
export {
  fitLives,
  lastIntervalMin,
  nextChecks,
  raisedUnnoted,
  READY,
  surpriseAt,
  type LifeFit,
  type Priors,
} from './settle';
