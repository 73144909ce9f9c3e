export { createGuide, type Guide } from './guide';
export {
  isSameStep,
  lineCentsOf,
  type FigurePlace,
  type GuidedStep,
  type GuideView,
  type PassStep,
  type Verdict,
} from './step';
export { cameFromAbove, type Figure } from './hand';
export { HOME_CENTS, othersThan, whichString, type NamedPlace } from './identify';
export { reachOf } from './reach';
export { createTurning, type TunerAdvice, type TunerKnown } from './turning';
export { figuresOf, guidedOf, lastHzOf, readingOf, soundedAlone } from './known';
export { loadOf, placeOf, tunerOf } from './tuner';
export { passOf, passRecord, passUnderWay } from './pass';
export { createPlayer, type Hearer, type Player, type PlayerMeans } from './player';
export type { GuidedLog, Kept, Outcome, Procedure } from './procedure';
export { readTyped, TYPED_HELP, TYPED_LABEL, type Typed } from './typed';
export { correctReading, figureText, type Corrected } from './correct';
