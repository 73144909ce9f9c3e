import { MINUTE, type Zone } from '../base';
import type { StringLife } from '../log';
import { fallAhead, mixtureMoments, slopeOf, warmthOf } from '../settling';
import type { LifeFit } from './fits';
import { readyAfterMin } from './ready';
import { roundsTold } from './rounds-gain';
import { leapBefore } from './events';
import { lastSlip } from './falls';

/** What is asked of what comes. */
export interface OutlookWish {
  nowMs: number;
  toleranceCents: number;
  holdMin: number;
  curtainMs: number | null;
  zone: Zone;
}

/** What is to come of one string. */
export interface StringOutlook {
  /** Fall in the next hour and day, mean and spread, cents. */
  perHour: { mean: number; sd: number };
  perDay: { mean: number; sd: number };
  /** From when it holds the wanted time, once brought to pitch; null where one bring-up is not enough, however long it waits. */
  readyMs: number | null;
  /** The same, if it is kept in tune until then; null where a fortnight is not enough. */
  keptReadyMs: number | null;
  /** How it answers to warmth, and what tells that. */
  warmth: { centsPerC: number; sdCents: number; from: LifeFit['temperatureFrom'] };
  /** What its stretch rounds have done; '' where there were none. */
  rounds: string;
  /** Fall each time its age doubles. */
  perDoubling: { mean: number; sd: number };
  /** When it last moved at once, and how far, cents (sharp positive); undefined where it did not. */
  leap: { atMs: number; cents: number } | undefined;
}

/** Without a thermometer the answer to warmth is less sure than it seems (house calibration, bench/audit). */
const UNMEASURED: Record<LifeFit['temperatureFrom'], number> = { thermometer: 1, 'other strings': 1.25, assumed: 1.25 };

/** What is to come of a string; undefined before it was read twice, a minute apart. */
export function stringOutlook(
  life: StringLife,
  lived: LifeFit | undefined,
  wish: OutlookWish,
): StringOutlook | undefined {
  if (!lived || !isReadTwice(life)) return undefined;
  const { fit } = lived;
  const { nowMs, toleranceCents, holdMin } = wish;
  const readyMs = (till: 'left alone' | 'kept in tune') => {
    const wait = readyAfterMin(lived.readFit, fit.nowMin, { holdMin, toleranceCents }, till);
    return wait === null ? null : nowMs + wait * MINUTE;
  };
  const { mean, sd } = warmthOf(fit);
  const slope = slopeOf(fit);
  const slip = lastSlip(life.readings);
  return {
    perHour: mixtureMoments(fallAhead(fit, 60)),
    perDay: mixtureMoments(fallAhead(fit, 1440)),
    readyMs: readyMs('left alone'),
    keptReadyMs: readyMs('kept in tune'),
    warmth: { centsPerC: mean, sdCents: sd * UNMEASURED[lived.temperatureFrom], from: lived.temperatureFrom },
    rounds: roundsTold(life, lived, wish),
    perDoubling: { mean: slope.mean * Math.LN2, sd: slope.sd * Math.LN2 },
    leap: slip && { atMs: slip.atMs, cents: leapBefore(life.readings, slip) },
  };
}

/** Nothing is forecast before a second reading, a minute after the first. */
export function isReadTwice({ readings }: StringLife): boolean {
  return readings.length >= 2 && readings.at(-1)!.atMs - readings[0]!.atMs >= MINUTE;
}
