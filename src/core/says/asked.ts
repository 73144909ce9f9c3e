import type { Zone } from '../base';
import type { Show } from '../plan';
import type { Bench, InstrumentLife } from '../log';

/** What is asked about one instrument. */
export interface SayAsked {
  life: InstrumentLife;
  bench: Bench;
  a4Hz: number;
  nowMs: number;
  zone: Zone;
  /** The show ahead; undefined where none is. */
  show: Show | undefined;
}
