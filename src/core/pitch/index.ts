export { SEARCH_HIGH_CENTS, SEARCH_LOW_CENTS } from './reading/look';
export { measure } from './reading/measure';
export { sharpAfter, type Sharp } from './partials/sharp-start';
export { checkClock, checkInput, type ClockCheck, type InputCheck } from './recording/input-check';
export { refuse } from './reading/refusals';
export { changeBetween, type PitchChange } from './reading/change';
export { createTracker, TRACK_RATE, type TrackPoint, type Tracker } from './live/live';
export { createListener, type Heard, type Listener, type SectionHeard, type ListenTask } from './live/listener';
export type {
  MeasureOptions,
  MeasureOutcome,
  Partial,
  Reading,
  Refusal,
  RefusalReason,
  StringPlace,
} from './reading/types';
export { decimate } from './signal/decimate';
export { firstLoss, lastClippedSample, LOSS_SIDE_S } from './recording/faults';
export { amplitudeSpectrum, powerOfTwo } from './signal/fft';
export { findPeaks, type Peaks } from './signal/peaks';
export { findSections, quietStretches, type Section } from './recording/section';
export { MAINS_HZ, withoutHum } from './recording/hum';
