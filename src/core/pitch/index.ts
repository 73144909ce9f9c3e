export { SEARCH_HIGH_CENTS, SEARCH_LOW_CENTS } from './look';
export { measure } from './measure';
export { checkClock, checkInput, type ClockCheck, type InputCheck } from './input-check';
export { refuse } from './refusals';
export { changeBetween, type Change } from './change';
export { createTracker, TRACK_RATE, type TrackPoint, type Tracker } from './live';
export { createListener, type Heard, type Listener, type SectionHeard, type Task } from './listener';
export type { MeasureOptions, Outcome, Partial, Reading, Refusal, RefusalReason, StringPlace } from './types';
