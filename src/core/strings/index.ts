export { STRING_MATERIALS, MATERIAL_NAMES, SETTLES_AS, type StringMaterial } from './materials';
export { stringLoad, REFUSE_SHARE, WARN_SHARE, type StringLoad, type StringSpec } from './load';
export { axialStiffnessN, centsPerDegree, centsPerMm, clockMinutes, takenUpPerTurnMm } from './winding';
export { FAMILIES, type FamilyPreset, type PresetString } from './families';
