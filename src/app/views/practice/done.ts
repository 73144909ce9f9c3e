import type { Draft } from '../../../core/log';

/** What is kept of an exercise that was done. */
export type Done = Omit<Extract<Draft, { type: 'exercise' }>, 'type'>;
