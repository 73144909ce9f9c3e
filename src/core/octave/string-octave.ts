import type { AgeTrend } from './age';
import type { BridgeLine } from './bridge-line';
import type { FretsFit } from './frets';
import type { OctavePass } from './passes';
import type { BridgeResponse } from './response';
import type { SaddleSetup } from './setup';
import type { OctaveVerdict } from './verdict';
import type { AdjustmentRecord } from '../log';

export interface StringOctave {
  stringId: string;
  note: string;
  lengthMm: number;
  acrossMm: number;
  passes: OctavePass[];
  last: OctavePass | undefined;
  verdict: OctaveVerdict | undefined;
  frets: FretsFit | undefined;
  response: BridgeResponse;
  /** Saddle's move for this string alone, longer positive, mm. */
  moveMm: number | null;
  moveSigma: number;
  trend: AgeTrend | undefined;
  /** Its error grew while no other string's did. */
  alone: boolean;
  /** When the trend's ages count from, ms. */
  agesFromMs: number;
  /** It was read on the string before this one, or before the set was edited or the action or nut worked on. */
  stale: 'new string' | 'edited' | 'reworked' | null;
  /** What is said against the string itself rests on more than one pluck: it costs money. */
  confirmed: boolean;
  /** All moves under this string so far, mm. */
  movedMm: number;
}

export interface Octaves {
  strings: StringOctave[];
  /** For a loose straight bridge with readings of all its outer strings. */
  line: BridgeLine | undefined;
  loose: boolean;
  adjustments: AdjustmentRecord[];
  setup: SaddleSetup;
}
