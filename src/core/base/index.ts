export { clamp, NORMAL_Q90, NORMAL_Q95, normalDensity } from './numbers';
export {
  clockTime,
  DAY,
  dueTime,
  dueWords,
  HOUR,
  hourOfDay,
  instantOf,
  instantOfIso,
  isZone,
  localDay,
  localIso,
  localText,
  MINUTE,
  nextAt,
  nextWholeHour,
  offsetMin,
  sinceTime,
  span,
  zoneOf,
  type Zone,
} from './time';
export { once } from './once';
export { counted, progressWords } from './words';
