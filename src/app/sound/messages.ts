import type { Heard, ListenTask } from '../../core/pitch';
import type { Follow, Followed } from '../../core/two-strings';

/** From the page to the listener worker. */
export type ToListener =
  /** `waits`: it sends a block when the one before was heard and answered for, and no sooner. */
  | { kind: 'source'; port: MessagePort; sampleRate: number; serial: number; waits: boolean }
  | { kind: 'task'; task: ListenTask }
  | { kind: 'read-now' }
  | { kind: 'check'; referenceHz?: number }
  | { kind: 'deafen'; seconds: number }
  /** What else is to be followed; null: nothing. */
  | { kind: 'follow'; follow: Follow | null }
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
  /** What was heard last of what is followed. */
  followed?: Followed;
  /** A block of a source that waits was heard. */
  took?: true;
}

/** A source of sound that hands blocks of samples to a port. */
export interface SoundSource {
  sampleRate: number;
  port: MessagePort;
  /** Of a source that waits: sends the next block; the one before was heard, and what was heard was told. */
  next?(): void;
  stop(): void;
}

/**
 * Opens a microphone.
 * @param unwanted who asked has gone on to something else
 */
export type OpenMicrophone = (
  deviceId: string | undefined,
  unwanted: AbortSignal,
  onTrouble: (sentence: string) => void,
  onNote: (sentence: string) => void,
) => Promise<SoundSource>;
