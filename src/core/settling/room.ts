import { Matrix, solve } from 'ml-matrix';
import { mean } from 'simple-statistics';
import type { SettlingPrior } from './materials';

/** A string's total falls as the room is read from them; `atMin` on one clock for all strings. */
export interface RoomString {
  prior: SettlingPrior;
  falls: { atMin: number; ageMin: number; fallCents: number }[];
}

export interface RoomMoment {
  atMin: number;
  /** Against the mean over the record, deg C. */
  tempC: number;
}

/** Readings within this of a walk's first belong to it, min. */
const WALK_MIN = 10;
/** Fewer strings, or readings a string, tell no room. */
const FEWEST_STRINGS = 3;
const FEWEST_READINGS = 5;
/** Spread of a room's temperature, deg C, and of one reading, cents (house estimates). */
const ROOM_SD_C = 1.6;
const READING_SD = 0.5;
/** Walks looked back on. */
const MOST_WALKS = 80;

/**
 * The room's temperature from what steel strings do alike: joint least squares of every string's fall, offset + slope ln(age) less
 * its usual coefficient times the temperature of the walk, with the priors of slope and temperature as further observations.
 * The logarithm of age is centred for each string, so that the offsets' freedom does not bite. House design.
 * @returns a temperature a walk, oldest first; empty where too few steel strings tell
 */
export function roomFromStrings(strings: readonly RoomString[]): RoomMoment[] {
  const used = strings.filter((s) => s.prior.steel && s.falls.length >= FEWEST_READINGS);
  if (used.length < FEWEST_STRINGS) return [];
  const times = used.flatMap((s) => s.falls.map((f) => f.atMin)).sort((a, b) => a - b);
  const starts: number[] = [];
  for (const t of times) if (starts.length === 0 || t - starts[starts.length - 1]! > WALK_MIN) starts.push(t);
  const walks = starts.slice(-MOST_WALKS);
  const walkOf = (t: number) => walks.findLastIndex((w) => w <= t);
  const S = used.length;
  const size = 2 * S + walks.length;
  const normal = Matrix.zeros(size, size);
  const right = Matrix.zeros(size, 1);
  const observe = (row: [index: number, value: number][], y: number, sd: number) => {
    for (const [i, u] of row) {
      right.set(i, 0, right.get(i, 0) + (u * y) / sd ** 2);
      for (const [j, v] of row) normal.set(i, j, normal.get(i, j) + (u * v) / sd ** 2);
    }
  };
  used.forEach(({ prior, falls }, s) => {
    const logAge = (ageMin: number) => Math.log1p(ageMin / prior.tauMin);
    const seen = falls.filter((f) => walkOf(f.atMin) >= 0);
    const centre = seen.length > 0 ? mean(seen.map((f) => logAge(f.ageMin))) : 0;
    const sd = Math.hypot(READING_SD, prior.wanderCents);
    for (const f of seen)
      observe(
        [
          [s, 1],
          [S + s, logAge(f.ageMin) - centre],
          [2 * S + walkOf(f.atMin), -prior.tempMean],
        ],
        f.fallCents,
        sd,
      );
    observe([[s, 1]], 0, 1e3);
    observe([[S + s, 1]], prior.slopeCents, prior.slopeCents * Math.max(0.3, prior.slopeSpread));
  });
  walks.forEach((_, k) => observe([[2 * S + k, 1]], 0, ROOM_SD_C));
  const solved = solve(normal, right)
    .to1DArray()
    .slice(2 * S);
  return walks.map((atMin, k) => ({ atMin, tempC: solved[k]! }));
}

/** Temperature at a moment between walks, by straight lines; undefined without any. */
export function roomAt(room: readonly RoomMoment[], atMin: number): number | undefined {
  const before = room.findLast((m) => m.atMin <= atMin);
  const next = room.find((m) => m.atMin > atMin);
  // A walk's own readings have its temperature.
  if (!before || !next || atMin - before.atMin <= WALK_MIN) return (before ?? next)?.tempC;
  return before.tempC + ((next.tempC - before.tempC) * (atMin - before.atMin)) / (next.atMin - before.atMin);
}
