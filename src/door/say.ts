import { DEFAULT_A4_HZ } from '../core/music';
import { statementsOf } from '../core/says';
import { instantFrom, refused } from './lines';
import { benchAt, isNoZone, logIn } from './log';
import { learnedOf, setsTaughtBy } from '../core/status';

/**
 * `say`: a log export with `now` beside its records (or the export under `log` or `export`) in, every statement out that the
 * views would make of it at that moment. What was written later is not looked at.
 */
export function sayDocument(item: Record<string, unknown>): object {
  const { now, zone: here, ...rest } = item;
  const read = logIn(rest);
  if (!read.ok) return refused('bad-log', read.message);
  const nowMs = instantFrom(now);
  if (nowMs === undefined)
    return refused('bad-now', 'Give now as milliseconds since 1970 or as ISO 8601, before 2200.');
  if (isNoZone(here)) return refused('bad-zone', 'zone is a time zone such as "Europe/Berlin".');
  const { bench, zone } = benchAt(read.records, nowMs, here);
  const learned = learnedOf(
    bench.instruments.map((i) => i.record),
    bench.instruments.flatMap(setsTaughtBy),
  );
  const statements = statementsOf(bench, {
    nowMs,
    zone,
    a4Hz: bench.reference?.a4Hz ?? DEFAULT_A4_HZ,
    priorsOf: (id) => learned[id]?.priors ?? {},
  });
  return { ok: true, statements };
}
