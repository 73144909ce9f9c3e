export * from './types';
export type { Written } from './order';
export { migrate } from './migrate';
export { repeatability, type Repeatability } from './aligned';
export { checkRecord, gaugeField, instrumentName, lengthField, noteField, type Checked } from './schemas';
export {
  ageFromMs,
  createLogIndex,
  indexOf,
  readBench,
  settlingEvents,
  standing,
  type Bench,
  type InstrumentLife,
  type LogIndex,
  type StringLife,
} from './log';
export { breaksAt, totalFallCents, totalFallSeries, type PastLife } from './lives';
export { instrumentStatus, type Band, type StringState, type StringStatus, type Wish } from './state';
export { clockTime } from './clock';
export { fitLives, lastIntervalMin, nextChecks, READY, surpriseAt, type LifeFit, type Priors } from './settle';
