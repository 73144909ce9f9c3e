export { knownPartials, type KnownPartial, type StrummedString } from './strings';
export { readStrum, type StringHeard, type StrumRefusal } from './read';
