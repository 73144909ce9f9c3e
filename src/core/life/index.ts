export { foundAndLeft, setsOf, treatmentsOf, type StringSet, type Treated } from './life';
export { lastedOn, livesByMaterial, medianLife, type MaterialLives } from './survival';
export { lifeSheet, ratesWords } from './words';
export { trialOf } from './pair-trial';
