/** A reading as the total fall needs it: cents from target, and whether the string was brought up just before it. */
export interface FallReading {
  cents: number;
  left: boolean;
}

/**
 * Total fall at each reading, cents, flat positive: all bring-ups (as left less the reading before) added up, less the
 * present offset, counted from the first reading. One curve runs through all retunings.
 * @example totalFall([{ cents: 0, left: true }, { cents: -8, left: false }, { cents: 0, left: true }]) // [0, 8, 8]
 */
export function totalFall(readings: FallReading[]): number[] {
  let raised = readings[0]?.cents ?? 0;
  return readings.map(({ cents, left }, i) => {
    if (left && i > 0) raised += cents - readings[i - 1]!.cents;
    return raised - cents;
  });
}
