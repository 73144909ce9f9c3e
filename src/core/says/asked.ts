import type { Zone } from '../base';
import type { PlanItem, Show } from '../plan';
import type { Bench, InstrumentLife } from '../log';
import type { Priors } from '../status';

/** What the plan of a show has for one instrument: its walks, in order; or that it plays in none, or that the plan is still being worked out. */
export type Walks = readonly PlanItem[] | 'in no show' | 'not yet';

/** What a plan has next for an instrument: null where nothing more, undefined where it does not play, or that is not known yet. */
export const visitIn = (walks: Walks): PlanItem | null | undefined =>
  typeof walks === 'string' ? undefined : (walks[0] ?? null);

/** What is asked about one instrument. */
export interface SayAsked {
  life: InstrumentLife;
  bench: Bench;
  a4Hz: number;
  nowMs: number;
  zone: Zone;
  /** Within so many cents, for so many minutes. */
  toleranceCents: number;
  holdMin: number;
  priors: Priors;
  /** The show ahead; undefined where none is. */
  show: Show | undefined;
  walks: Walks;
}
