import { array, boolean, number, object, string } from 'yup';
import {
  COLDEST_C,
  LEAST_TOLERANCE_CENTS,
  LONGEST_SHOW_MIN,
  MOST_HANDS,
  MOST_TOLERANCE_CENTS,
  WARMEST_C,
} from '../core/limits';
import { EFFORTS, minutesPerString, planSession, planShow, planStrings, READY_SCHOOLS } from '../core/plan';
import { SETTLING_PRIORS } from '../core/settling';
import { checked, instantFrom, refused } from './lines';
import { benchAt, isNoZone, logIn } from './log';
import { MINUTE } from '../core/base';

const sessionSchema = object({
  minutes: number().strict().positive().max(LONGEST_SHOW_MIN).required(),
  toleranceCents: number().strict().min(LEAST_TOLERANCE_CENTS).max(MOST_TOLERANCE_CENTS).required(),
  intervalMin: number().strict().min(0).max(LONGEST_SHOW_MIN).nullable().optional(),
  school: string().strict().oneOf(READY_SCHOOLS).optional(),
  thereC: number().strict().min(COLDEST_C).max(WARMEST_C).nullable().optional(),
  effort: string().strict().oneOf(EFFORTS).optional(),
  leads: boolean().strict().optional(),
  hands: number().strict().integer().min(1).max(MOST_HANDS).optional(),
  spares: array()
    .of(object({ instrumentId: string().strict().required(), forId: string().strict().required() }))
    .max(20)
    .optional(),
}).required();

/**
 * `plan`: a log export with `session` and `now` beside its records (or the export under `log` or `export`) in, the items out. Times come
 * back as they were given: ISO 8601 if `session.at` was, else ms.
 */
export function planDocument(item: Record<string, unknown>): object {
  const { session: asked, now, zone: here, ...rest } = item;
  const read = logIn(rest);
  if (!read.ok) return refused('bad-log', read.message);
  const session = (asked ?? {}) as Record<string, unknown>;
  const curtainMs = instantFrom(session['at']);
  const nowMs = instantFrom(now);
  if (curtainMs === undefined || nowMs === undefined)
    return refused('bad-session', 'Give session.at and now as milliseconds since 1970 or as ISO 8601, before 2200.');
  const valid = checked(sessionSchema, session, 'bad-session');
  if (!valid.ok) return valid;
  const wish = valid.value;
  if (curtainMs + wish.minutes * MINUTE <= nowMs) return refused('bad-session', 'The session is over at that time.');
  if (isNoZone(here)) return refused('bad-zone', 'zone is a time zone such as "Europe/Berlin".');
  const { bench, zone } = benchAt(read.records, nowMs, here);
  if (bench.instruments.length === 0) return refused('no-instruments', 'No instrument is on this bench at that time.');
  const { items, holds, before, inShow, minutes, out } = planShow({
    strings: planStrings(bench.instruments, (material) => SETTLING_PRIORS[material]),
    // What the schema does not know is not handed on.
    session: planSession({ ...wish, curtainMs, plays: undefined, skippedMs: undefined }, bench.room?.tempC ?? null),
    nowMs,
    zone,
    minutesPerString: minutesPerString(bench),
  });
  const asTime = (ms: number) => (typeof session['at'] === 'string' ? new Date(ms).toISOString() : ms);
  return {
    ok: true,
    items: items.map((i) => ({
      at: asTime(i.atMs),
      instrument: i.instrumentId,
      strings: i.stringIds,
      what: i.what,
      why: i.why,
      minutes: i.minutes,
      late: i.late,
      conflict: i.conflict,
      ...(i.for ? { for: i.for } : {}),
      ...(i.leaveAtCents ? { leaveAtCents: i.leaveAtCents } : {}),
      ...(i.bringUpFromCents === undefined ? {} : { bringUpFromCents: i.bringUpFromCents }),
      ...(i.spareId ? { spare: i.spareId } : {}),
    })),
    holds,
    walks: { before, inShow },
    minutes,
    out,
  };
}
