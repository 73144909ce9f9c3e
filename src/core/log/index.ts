export * from './records';
export type { Written } from './order';
export { repeatability, type Repeatability } from './aligned';
export { ageFromMs, groupBy, leapBefore, settlingEvents, standing, type InstrumentLife, type StringLife } from './life';
export { isWanted, type Search } from './search';
export { partOf } from './log-index';
export { chapterOf, idsOf, intoChapters, isChapter, readingsOf, type Chapter } from './chapter';
export { createLogIndex, indexOf, readBench, type Bench, type Entries, type LogIndex } from './log-index';
export { breaksAt, totalFallCents, totalFallSeries, type PastLife } from './lives';
export { instrumentStatus, standsAt, type Band, type StringState, type StringStatus, type Wish } from './state';
export { clockTime, dueTime, dueWords, sinceTime, span } from './clock';
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
