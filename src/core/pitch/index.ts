export { measure, SEARCH_HIGH_CENTS, SEARCH_LOW_CENTS } from './measure';
export { refuse } from './refusals';
export type { MeasureOptions, Outcome, Partial, Reading, Refusal, RefusalReason } from './types';
