export * from './types';
export type { Written } from './order';
export { migrate } from './migrate';
export { repeatability, type Repeatability } from './aligned';
export {
  checkRecord,
  gaugeField,
  instrumentName,
  headField,
  lengthField,
  noteField,
  offsetField,
  tunerField,
  type Checked,
} from './schemas';
export { ageFromMs, leapBefore, settlingEvents, standing, type InstrumentLife, type StringLife } from './log';
export { createLogIndex, indexOf, readBench, type Bench, type LogIndex } from './log-index';
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
