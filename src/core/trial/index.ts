export { judgeTrial, type Trial, type TrialPair, type TrialReading } from './judge';
export { drawLots } from './lots';
export { counted, countedFromMs, warningOf } from './setup';
export { slopesOf } from './slopes';
export { verdictWords } from './words';
