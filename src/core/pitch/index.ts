export { SEARCH_HIGH_CENTS, SEARCH_LOW_CENTS } from './reading/look';
export { measure } from './reading/measure';
export { sharpAfter } from './partials/sharp-start';
export { checkClock, checkInput } from './recording/input-check';
export { changeBetween } from './reading/change';
export { createTracker, type TrackPoint } from './live/live';
export { createListener, type Heard, type Listener, type SectionHeard, type ListenTask } from './live/listener';
export type { MeasureOutcome, Reading, Refusal, RefusalReason, StringPlace } from './reading/types';
export { decimate } from './signal/decimate';
export { firstLoss, lastClippedSample, LOSS_SIDE_S } from './recording/faults';
export { amplitudeSpectrum, powerOfTwo } from './signal/fft';
export { findPeaks, type Peaks } from './signal/peaks';
export { findSections, quietStretches } from './recording/section';
export { MAINS_HZ, withoutHum } from './recording/hum';
export {
  knownPartials,
  readStrum,
  type KnownPartial,
  type StringHeard,
  type StrumRefusal,
  type StrummedString,
} from './strum';
