import { octavesOf } from '../octave';
import { nextThing, type NextAsked, type NextThing } from './next';

/** What a rack shows of one instrument in a line. */
export interface RackLine {
  next: NextThing;
  /** Chance that its weakest string holds untouched as long as is asked for; null where too little was read. */
  chance: number | null;
  /** When its oldest string was put on; null where nobody said of any. */
  strungMs: number | null;
  /** When it was last read. */
  seenMs: number | null;
  /** Strings of which a cause was found and not yet cured. */
  findings: number;
  /** The furthest octave, cents, and whether any octave error grows past what is borne; null where none was read. */
  octave: { cents: number; grows: boolean } | null;
}

/** One line of the rack. */
export function rackLine(asked: NextAsked): RackLine {
  const { life, bench, statuses } = asked;
  const { instrumentId } = life.record;
  const known = statuses.flatMap((s) => s.chance ?? []);
  const put = life.strings.flatMap((s) => s.strungMs ?? []);
  const seen = life.strings.flatMap((s) => s.readings.at(-1)?.atMs ?? []);
  const newest = new Map(
    bench.findings.filter((f) => f.instrumentId === instrumentId).map((f) => [f.stringId, f] as const),
  );
  const open = [...newest.values()].filter((f) => {
    const string = life.strings.find((s) => s.plan.stringId === f.stringId);
    return f.outcome !== 'helped' && f.causes[0]!.cause !== 'none' && string && f.atMs >= (string.strungMs ?? 0);
  });
  const octaves = octavesOf(life, bench).strings.flatMap((s) =>
    s.last ? [{ cents: s.last.errors.errorCents, grows: s.trend?.grows ?? false }] : [],
  );
  const furthest = [...octaves].sort((a, b) => Math.abs(b.cents) - Math.abs(a.cents))[0];
  return {
    next: nextThing(asked),
    chance: known.length > 0 ? Math.min(...known) : null,
    strungMs: put.length > 0 ? Math.min(...put) : null,
    seenMs: seen.length > 0 ? Math.max(...seen) : null,
    findings: open.length,
    octave: furthest ? { cents: furthest.cents, grows: octaves.some((o) => o.grows) } : null,
  };
}
