export { frictionFigure, betweenLimitsCents, muThetaOf } from './limits';
export { instrumentFriction, type StringFriction, type InstrumentFriction } from './history';
export { lubricantLasts, type LubricantPoint } from './lubricants';
export { bendWords, changeOf, changeWords, lastsWords, loseWords, trickReadWords, trickWords } from './tricks';
