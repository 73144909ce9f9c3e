export { judgeTrial, type Trial, type TrialPair, type TrialReading } from './judge';
export { drawLots } from './lots';
export { countedFrom, countedFromMs, warningOf } from './setup';
export { slopesOf } from './slopes';
export { ratioWords, verdictWords } from './words';
