import type { SettlingEvent } from './history';

/** A point of the total fall: everything brought up so far less the present offset, cents, flat positive. */
export interface FallPoint {
  t: number;
  fallCents: number;
}

/**
 * Total fall of a string at each of its readings: bring-ups (as left less as found) are added up, so that one curve runs
 * through all retunings. A retuning whose two readings are not both known is taken to end on target.
 */
export function totalFall(events: SettlingEvent[]): FallPoint[] {
  const points: FallPoint[] = [];
  let raised = 0;
  let found: number | undefined;
  let awaitingLeft = false;
  let first = true;
  for (const e of events) {
    if (e.kind === 'retune') {
      awaitingLeft = true;
      continue;
    }
    if (awaitingLeft && !first && found !== undefined) raised += e.cents - found;
    else if (first) raised = e.cents;
    awaitingLeft = false;
    first = false;
    found = e.cents;
    points.push({ t: e.t, fallCents: raised - e.cents });
  }
  return points;
}
