import { useMemo } from 'react';
import { slices, type InstrumentLife } from '../../../core/log';
import { visitIn, type RackLine } from '../../../core/says';
import { useAskedEach } from '../../world/asked';
import { useNow } from '../../world/now';
import { useAllWalks } from '../../world/plan';
import { usePriors } from '../../world/priors';
import { wishOf } from '../../world/status';
import { useWorld } from '../../world/world';
import { MINUTE } from '../../../core/base';

/** What is told of all instruments is reckoned anew so often, ms, and so many at a time: other questions come between. */
const EVERY_MS = 10 * MINUTE;
const AT_A_TIME = 6;

/** One instrument with what its line says; that comes by and by. */
export interface RackRow {
  life: InstrumentLife;
  line: RackLine | undefined;
}

/** All instruments with their lines. */
export function useRack(): { rows: RackRow[]; error: Error | undefined; known: number } {
  const { bench, a4Hz, zone } = useWorld();
  const { instruments } = bench;
  const now = Math.floor(useNow(MINUTE) / EVERY_MS) * EVERY_MS;
  const { priorsFor } = usePriors();
  const walksOf = useAllWalks();
  const parts = slices(instruments, AT_A_TIME).map((some) => some.map((i) => i.record.instrumentId));
  const curtainMs = bench.curtain?.curtainMs ?? null;
  const { data, error } = useAskedEach(
    parts.map((ids) => ({
      question: 'rack',
      subject: ids.join(' '),
      of: bench,
      ask: ids.map((instrumentId) => ({
        instrumentId,
        a4Hz,
        zone,
        visit: visitIn(walksOf(instrumentId)),
        wish: wishOf(now, curtainMs, priorsFor(instrumentId)),
      })),
      waits: true,
      enabled: ids.every((id) => walksOf(id) !== 'not yet'),
    })),
  );
  const rows = useMemo(
    () => instruments.map((life, i): RackRow => ({ life, line: data[Math.floor(i / AT_A_TIME)]?.[i % AT_A_TIME] })),
    [instruments, data],
  );
  return { rows, error, known: rows.filter((r) => r.line).length };
}
