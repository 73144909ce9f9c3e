export { STRING_MATERIALS, MATERIAL_NAMES, SETTLES_AS, type StringMaterial } from './materials';
export { stringLoad, type StringLoad } from './load';
export { setLoad, type NamedSpec, type SetLoad } from './set';
export { bendWithin, leastBend, type Bend } from './bend';
export { guardAllowanceCents, pitchGuard, strayWords } from './guard';
export {
  axialStiffnessN,
  CENTS_PER_LN_TENSION,
  centsPerDegree,
  centsPerMm,
  clockMinutes,
  handleAngleDeg,
  slackForTurnsMm,
  takenUpPerTurnMm,
} from './winding';
export { FAMILIES, type FamilyPreset, type PresetString } from './families';
export { BRIDGES, TUNERS, type BridgeKind, type Build, type FamilyTraits, type TunerKind } from './builds';
export { traitsOf } from './traits';
export { tunerPlace, type TunerPlace } from './tuner-place';
export { centsPerTurn, farWords, fineTravelLeft, turnOf, wayWords, type Turn } from './turn';
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
export { breakingWarning, ofBreaking, REFUSE_SHARE, WARN_SHARE } from './breaking';
export { balanceWords, breaksWords } from './load';
