export {
  errorAfterMove,
  octaveOf,
  saddleMoveMm,
  stiffOctaveCents,
  THREADS_MM,
  type OctaveErrors,
  type OctaveReadings,
} from './octave';
export { judgeString, type OctaveVerdict } from './verdict';
export { judgeFrets, type FretReading, type FretsFit } from './frets';
export { bridgeLine, type BridgeLine, type BridgeString } from './bridge-line';
export { learnResponse, type BridgeMove, type BridgeResponse } from './response';
export { ageTrend, grewAlone, type AgeTrend } from './age';
export { medianOfPlucks, octavePasses, responseOf, type OctavePass } from './passes';
export { acrossMm } from './across';
export { freshMoves, movesToMake, moveUnder, octavesOf, type Octaves, type StringOctave } from './octaves';
export { BEGIN_OCTAVE, MORE_FRETS, octaveAt, octaveProcedure, type OctaveAction, type OctaveState } from './procedure';
export { setupOf, USUAL_SETUP, type SaddleSetup } from './setup';
export type { TouchStep } from './steps';
export { adviceFor, direction, sizeOf, toldOf, VERDICT_WORDS } from './words';
