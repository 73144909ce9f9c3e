import type { Draft, SessionRecord } from '../log';
import {
  COLDEST_C,
  LATEST_MS,
  LEAST_TOLERANCE_CENTS,
  LONGEST_SHOW_MIN,
  MOST_HANDS,
  MOST_TOLERANCE_CENTS,
  WARMEST_C,
} from '../limits';
import { asPlayed, somebodyPlays, type Roles } from './roles';

/** A show as a person writes it down; null where a field is empty, NaN where no figure stands. */
export interface WrittenShow {
  place: string;
  curtainMs: number;
  minutes: number | null;
  intervalMin: number | null;
  toleranceCents: number | null;
  /** Temperature there, deg C. */
  thereC: number | null;
  hands: number | null;
  school: SessionRecord['school'];
  leads: boolean;
  roles: Roles;
  effort?: NonNullable<SessionRecord['effort']>;
}

const within = (value: number | null, low: number, high: number): value is number =>
  value !== null && value >= low && value <= high;

/** What is wrong with a show as it was written; undefined where it can be planned. */
function faultOf(show: WrittenShow, nowMs: number): string | undefined {
  const { curtainMs, minutes, intervalMin, toleranceCents, thereC, hands } = show;
  if (!(curtainMs > nowMs && curtainMs <= LATEST_MS)) return 'The show must start in the future.';
  if (!(within(minutes, 0, LONGEST_SHOW_MIN) && minutes > 0)) return 'Give the length in minutes, up to a day.';
  if (intervalMin !== null && !(intervalMin > 0 && intervalMin < minutes))
    return 'Give the interval in minutes after the start, before the end. Leave it empty for none.';
  if (!within(toleranceCents, LEAST_TOLERANCE_CENTS, MOST_TOLERANCE_CENTS))
    return `Give the tolerance from ${LEAST_TOLERANCE_CENTS} to ${MOST_TOLERANCE_CENTS} cents.`;
  if (thereC !== null && !within(thereC, COLDEST_C, WARMEST_C))
    return `Give the temperature there from −${-COLDEST_C} to ${WARMEST_C} °C, or leave it empty.`;
  if (!somebodyPlays(show.roles)) return 'Choose at least one instrument that plays.';
  if (!(within(hands, 1, MOST_HANDS) && Number.isInteger(hands))) return `How many people tune? 1 to ${MOST_HANDS}.`;
  return undefined;
}

/** What is kept of a show as it was written, or what is wrong with it. */
export function readShow(show: WrittenShow, nowMs: number): { drafts: Draft[] } | { fault: string } {
  const fault = faultOf(show, nowMs);
  if (fault !== undefined) return { fault };
  const { curtainMs, intervalMin, thereC, school, leads, effort } = show;
  const minutes = show.minutes!;
  return {
    drafts: [
      {
        type: 'session',
        place: show.place.trim() || 'the show',
        curtainMs,
        minutes,
        intervalMin,
        toleranceCents: show.toleranceCents!,
        school,
        thereC,
        ...asPlayed(show.roles, intervalMin ?? minutes / 2, minutes),
        leads,
        hands: show.hands!,
        ...(effort === undefined ? {} : { effort }),
      },
      { type: 'curtain', curtainMs },
    ],
  };
}
