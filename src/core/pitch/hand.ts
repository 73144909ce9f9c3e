import type { TrackPoint } from './live';

export type Arrival = 'from below' | 'from above' | 'overshot' | 'untouched';
export type Motion = 'rising' | 'falling' | 'steady' | 'silent';

/** Slower than this the hand is off, cents per second (house estimate). */
const STEADY_CENTS_PER_S = 7;
const MOTION_S = 0.4;

/** A pluck starts sharp and rough: this much of the trace after one says nothing of the hand, s (house estimate). */
const ATTACK_S = 0.3;
/** A rise of the level by this much within RISE_POINTS is a pluck, also of a string that still rings, dB. */
const ATTACK_DB = 3;
const RISE_POINTS = 3;

/** The trace without the starts of its plucks: their points carry no cents. */
function withoutAttacks(points: TrackPoint[]): TrackPoint[] {
  const calm = points.map(() => true);
  points.forEach((p, i) => {
    const before = points[i - RISE_POINTS];
    if (!before || p.levelDb < before.levelDb + ATTACK_DB) return;
    for (let k = i - RISE_POINTS + 1; k < points.length && points[k]!.tS < p.tS + ATTACK_S; k++) calm[k] = false;
  });
  return points.map((p, i) => (calm[i] ? p : { ...p, cents: null }));
}

/** How the pitch moves now: least-squares slope of the last 0.4 s of the trace. */
export function motion(points: TrackPoint[]): Motion {
  const end = points[points.length - 1]?.tS ?? 0;
  let n = 0;
  let st = 0;
  let sc = 0;
  let stt = 0;
  let stc = 0;
  for (let i = points.length - 1; i >= 0 && end - points[i]!.tS < MOTION_S; i--) {
    const { tS, cents } = points[i]!;
    if (cents === null) continue;
    const t = tS - end;
    n++;
    st += t;
    sc += cents;
    stt += t * t;
    stc += t * cents;
  }
  if (n < 5) return 'silent';
  const slope = (n * stc - st * sc) / (n * stt - st * st);
  return Math.abs(slope) < STEADY_CENTS_PER_S ? 'steady' : slope > 0 ? 'rising' : 'falling';
}

/**
 * How the string came to where it is: from the last stretch of the trace outside the tolerance, and whether it had been
 * below before it was above.
 */
export function arrival(points: TrackPoint[], toleranceCents: number): Arrival {
  let side: 'below' | 'above' | undefined;
  let wasBelow = false;
  for (const { cents: c } of withoutAttacks(points)) {
    if (c === null) continue;
    if (c < -toleranceCents) {
      side = 'below';
      wasBelow = true;
    } else if (c > toleranceCents) side = 'above';
  }
  if (side === undefined) return 'untouched';
  if (side === 'below') return 'from below';
  return wasBelow ? 'overshot' : 'from above';
}

/** Has the string stood within tolerance, with the hand off, for the last `seconds`? */
export function hasSettled(points: TrackPoint[], toleranceCents: number, seconds: number): boolean {
  const end = points[points.length - 1]?.tS ?? 0;
  const recent = points.filter((p) => end - p.tS <= seconds);
  const heard = recent.filter((p) => p.cents !== null).length;
  if (end - (recent[0]?.tS ?? end) <= 0.93 * seconds || heard <= 0.75 * recent.length) return false;
  const calm = withoutAttacks(recent);
  return calm.every((p) => p.cents === null || Math.abs(p.cents) <= toleranceCents) && motion(calm) === 'steady';
}
