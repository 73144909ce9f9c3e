export { solveNet, type Net, type Observation, type Pin } from './net';
export {
  EAR_SD,
  earRound,
  SCHOOLS,
  type EarOutcome,
  type EarRound,
  type EarStep,
  type School,
  type Sound,
} from './ear';
