/** A place beside the pivot: along the strings, away from the nut positive, and above it, mm. */
interface Point {
  alongMm: number;
  aboveMm: number;
}

/** One string of an exact bridge. Lengths mm, forces N. */
export interface ExactString {
  /** Axial stiffness EA, N. */
  axialN: number;
  /** Length from tuner to anchor without tension; winding shortens it. */
  slackMm: number;
  /** Nut to tuner and saddle to anchor, mm. */
  behindMm: number;
  /** Unit mass, kg/m. */
  massKgPerM: number;
  /** Where the nut and, at rest, the saddle lie: along the string from the pivot (the nut at a negative place), and above it. */
  nut: Point;
  saddle: Point;
}

/** A rigid bridge on a knife edge at the origin, turned by an angle, forward positive. */
export interface ExactBridge {
  strings: ExactString[];
  springs: {
    count: number;
    /** N/mm each. */
    rateNPerMm: number;
    /** Length without tension. */
    slackMm: number;
    /** Where they hook into the block at rest, and where the claw holds them. */
    hook: Point;
    claw: Point;
  };
}

const turned = ({ alongMm, aboveMm }: Point, angle: number): Point => ({
  // Forward: what lies above the pivot goes toward the nut, which lies at negative places.
  alongMm: alongMm * Math.cos(angle) - aboveMm * Math.sin(angle),
  aboveMm: alongMm * Math.sin(angle) + aboveMm * Math.cos(angle),
});
const between = (a: Point, b: Point) => Math.hypot(a.alongMm - b.alongMm, a.aboveMm - b.aboveMm);

/** Speaking length at an angle, mm. */
export const speakingMm = (s: ExactString, angle: number): number => between(s.nut, turned(s.saddle, angle));

/** Tension of a string at an angle, N: what is behind nut and saddle stretches with it. */
export function tensionAt(s: ExactString, angle: number): number {
  const stretched = speakingMm(s, angle) + s.behindMm - s.slackMm;
  return Math.max(0, (s.axialN * stretched) / s.slackMm);
}

/** Pitch at an angle, Hz: (1 / 2L) sqrt(T / mu) (Mersenne). */
export const pitchAt = (s: ExactString, angle: number): number =>
  Math.sqrt(tensionAt(s, angle) / s.massKgPerM) / (2e-3 * speakingMm(s, angle));

const springForce = ({ springs }: ExactBridge, angle: number): number =>
  springs.rateNPerMm * (between(springs.claw, turned(springs.hook, angle)) - springs.slackMm);

/** Energy of strings and springs at an angle, N mm. */
export function energyAt(bridge: ExactBridge, angle: number): number {
  const strings = bridge.strings.reduce((sum, s) => {
    const t = tensionAt(s, angle);
    return sum + (0.5 * t * t * s.slackMm) / s.axialN;
  }, 0);
  const f = springForce(bridge, angle);
  return strings + (bridge.springs.count * 0.5 * f * f) / bridge.springs.rateNPerMm;
}

const STEP = 1e-5;
/** Moment that turns it forward at an angle, N mm: the energy's slope, by differences. */
export const momentAt = (bridge: ExactBridge, angle: number): number =>
  -(energyAt(bridge, angle + STEP) - energyAt(bridge, angle - STEP)) / (2 * STEP);

/** As far as it can be turned, rad. */
const MOST = 0.35;

/** The angle at which so much moment is left, N mm (by halving). */
export function angleAt(bridge: ExactBridge, moment: number): number {
  let [low, high] = [-MOST, MOST];
  for (let i = 0; i < 50; i++) {
    const middle = (low + high) / 2;
    if (momentAt(bridge, middle) > moment) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** The angle of rest, where no moment is left; undefined where it falls over. */
export function restAngle(bridge: ExactBridge): number | undefined {
  if (momentAt(bridge, -MOST) < 0 || momentAt(bridge, MOST) > 0) return undefined;
  return angleAt(bridge, 0);
}
