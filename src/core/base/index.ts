export { normalDensity } from './numbers';
export {
  clockTime,
  DAY,
  dueTime,
  dueWords,
  HOUR,
  hourOfDay,
  instantOf,
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
