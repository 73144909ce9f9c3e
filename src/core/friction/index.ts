export {
  frictionFigure,
  trickWords,
  lubricantLasts,
  betweenLimitsCents,
  muThetaOf,
  type LubricantPoint,
} from './limits';
export { instrumentFriction, type StringFriction, type InstrumentFriction } from './history';
