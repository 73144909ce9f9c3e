import type { CauseTest, Measure } from '../codes';
import { loadOf } from '../guided';
import type { InstrumentLife } from '../log';
import { stringTargetHz } from '../music';
import { bendWithin, leastBend, traitsOf, type Bend } from '../strings';
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

/** What moves all strings at once. */
const MOVES_ALL: readonly (CauseTest | Measure)[] = ['pull-up'];

/** How far a string may be pulled sharp by a test, by what it pulls at its pitch; where a test moves all strings, by the one nearest to breaking. */
export const bendIn =
  ({ strings }: Pick<InstrumentLife, 'strings'>, stringId: string, test: CauseTest | Measure, a4Hz: number) =>
  (mostCents?: number): Bend | undefined =>
    leastBend(
      strings
        .filter(({ plan }) => MOVES_ALL.includes(test) || plan.stringId === stringId)
        .map(({ plan }) => bendWithin(loadOf(plan, stringTargetHz(plan, a4Hz)!), mostCents)),
    );
