export { judgeTrial, type Trial, type TrialPair, type TrialReading, type TrialVerdict } from './judge';
export { drawLots, type Lot } from './lots';
export { counted, countedFromMs, warningOf } from './setup';
export { slopesOf } from './slopes';
