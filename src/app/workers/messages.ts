import type { Heard, Task } from '../../core/pitch';
import type { InstrumentLife, StringStatus, Wish } from '../../core/records';

/** From the page to the listener worker. */
export type ToListener =
  | { kind: 'source'; port: MessagePort; sampleRate: number; serial: number }
  | { kind: 'task'; task: Task }
  | { kind: 'read-now' }
  | { kind: 'check'; referenceHz?: number }
  | { kind: 'close' };

/** Blocks of samples from a source to the listener worker, over its own port; answered by one message each. */
export interface BlockMessage {
  samples: Float32Array;
  lost: boolean;
}

/** From the listener worker to the page. `serial` tells which source it heard. */
export interface FromListener {
  heard: Heard[];
  serial: number;
}

export interface StatusRequest {
  id: number;
  life: InstrumentLife;
  wish: Wish;
}

export interface StatusAnswer {
  id: number;
  statuses: StringStatus[];
}
