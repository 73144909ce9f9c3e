import { array } from 'yup';
import { LEAST_TOLERANCE_CENTS, LONGEST_SHOW_MIN, MOST_HANDS, MOST_TOLERANCE_CENTS } from '../../limits';
import { clockTime, zoneOf } from '../../base';
import { count, degrees, finite, id, instant, part, text, within, yes } from './fields';
import { recordKind, type RecordOf } from './record';

const minute = () => within(0, LONGEST_SHOW_MIN);

/** A show that is planned for; a newer one takes its place. */
export const session = recordKind(
  'session',
  {
    place: text(80).required(),
    curtainMs: instant().required(),
    minutes: finite().positive().max(LONGEST_SHOW_MIN).required(),
    toleranceCents: within(LEAST_TOLERANCE_CENTS, MOST_TOLERANCE_CENTS).required(),
    /** Interval, min after the curtain; null where there is none. */
    intervalMin: minute().nullable().defined(),
    school: id().required(),
    /** Who plays. */
    instrumentIds: array().of(id().required()).max(200).required(),
    /** Expected temperature there, deg C; null where not said. */
    thereC: degrees().nullable().defined(),
    /** How often somebody is willing to come. */
    effort: id().optional(),
    /** Strings that will fall are left above their target; they are, where nobody says. */
    leads: yes().optional(),
    /** How many tune. */
    hands: count(1, MOST_HANDS).optional(),
    /** Who does not play all the time, min after the curtain. */
    plays: array()
      .of(part({ instrumentId: id().required(), fromMin: minute().required(), toMin: minute().required() }).required())
      .max(200)
      .optional(),
    /** Who stands by for whom. */
    spares: array()
      .of(part({ instrumentId: id().required(), forId: id().required() }).required())
      .max(200)
      .optional(),
    /** When a visit was skipped. */
    skippedMs: instant().optional(),
  },
  (r, { zone }) =>
    `Show at ${clockTime(r.curtainMs, zoneOf(r, zone))}, ${r.place}: ${r.minutes} min, ±${r.toleranceCents} cents`,
  {
    place: 'Lock basin',
    curtainMs: 1_781_272_806_000,
    minutes: 90,
    toleranceCents: 3,
    intervalMin: 45,
    school: 'make-ready',
    instrumentIds: ['x'],
    thereC: 15,
    effort: 'often',
    leads: true,
    hands: 1,
    plays: [{ instrumentId: 'x', fromMin: 0, toMin: 40 }],
    spares: [],
    skippedMs: 1_781_266_806_000,
  },
);
export type SessionRecord = RecordOf<typeof session>;
