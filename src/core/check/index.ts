export { isOfPass, lastKept, leadIn, needsTuning, nextStep, passUnderWay, type CheckPass } from './steps';
