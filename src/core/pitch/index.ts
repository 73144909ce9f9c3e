export { measure, SEARCH_HIGH_CENTS, SEARCH_LOW_CENTS } from './measure';
export { checkClock, checkInput, type ClockCheck, type InputCheck } from './input-check';
export { refuse } from './refusals';
export { changeBetween, type Change } from './change';
export { createTracker, TRACK_RATE, type TrackPoint, type Tracker } from './live';
export { arrival, hasSettled, motion, type Arrival, type Motion } from './hand';
export { createListener, type Heard, type Listener, type Task } from './listener';
export { whichOtherString, whoseSound, type StringPlace } from './other-string';
export type { MeasureOptions, Outcome, Partial, Reading, Refusal, RefusalReason } from './types';
