export { foundAndLeft, setsOf, treatmentsOf, type FoundAndLeft, type StringSet, type Treated } from './life';
export { lastedOn, livesByMaterial, medianLife, type MaterialLives, type MedianLife } from './survival';
export { lifeSheet } from './words';
