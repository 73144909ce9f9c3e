export { STRING_MATERIALS, MATERIAL_NAMES, SETTLES_AS, type StringMaterial } from './materials';
export { stringLoad, REFUSE_SHARE, WARN_SHARE, type StringLoad, type StringSpec } from './load';
export { setLoad, type NamedSpec, type SetLoad, type SetWarning } from './set';
export { guardAllowanceCents, pitchGuard, type GuardCall } from './guard';
export {
  axialStiffnessN,
  centsPerDegree,
  centsPerMm,
  clockMinutes,
  handleAngleDeg,
  slackForTurnsMm,
  takenUpPerTurnMm,
} from './winding';
export { FAMILIES, traitsOf, type FamilyPreset, type FamilyTraits, type PresetString } from './families';
export {
  FORCE_UNITS,
  forceWords,
  gaugeWords,
  LENGTH_UNITS,
  lengthIn,
  lengthWords,
  parseGaugeMm,
  parseLengthMm,
  type ForceUnit,
  type LengthUnit,
} from './units';
