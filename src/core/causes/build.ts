import type { InstrumentLife } from '../log';
import { traitsOf } from '../strings';
import type { CauseBuild } from './kinds';

/** How an instrument is built, as far as causes go. */
export function causeBuildOf({ record }: InstrumentLife): CauseBuild {
  const { tuner, holds, tree, locking, frets } = traitsOf(record);
  return {
    bridge: holds === 'springs' ? 'floating' : holds === 'nothing' && tuner === 'geared' ? 'fixed' : 'tailpiece',
    nut: locking ? 'locking' : 'plain',
    tree: tree && !locking,
    tuners: tuner === 'friction-peg' ? 'friction' : tuner,
    frets,
  };
}
