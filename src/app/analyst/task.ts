import type { LogIndex } from '../../core/log';
import type { RecordStore } from '../store/database';

/** What a question that takes long needs: it goes in slices, tells how far it is, and ends when nobody waits for it. */
export interface LongTask {
  index: () => LogIndex;
  /** The log as it is read and written. @throws Error where it could not be opened */
  log: () => { index: LogIndex; store: RecordStore };
  /** Alone of all that import into this log. */
  alone: (work: () => Promise<void>) => Promise<void>;
  /** Others come first. */
  pause: () => Promise<void>;
  /** How far it is, 0 to 1. */
  tell: (id: number, done: number) => void;
  isDropped: (id: number) => boolean;
}
