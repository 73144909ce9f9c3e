import { axialStiffnessN, stringLoad } from '../strings';

/** What an owner can say of a floating bridge and its strings. */
export interface BridgeSpec {
  springs: number;
  /** What a turn of the claw's screws moves it by, mm. */
  screwPitchMm: number;
  scaleMm: number;
  /** From the first, thinnest string on. */
  strings: BridgeStringSpec[];
  /** Blocked, or pulled against a stop: no string moves another. */
  held?: boolean;
}
export interface BridgeStringSpec {
  targetHz: number;
  gaugeMm: number;
  wound: boolean;
  /** The core's diameter where it is known. */
  coreMm?: number | undefined;
}

/** House estimates of usual bridges, where nothing else is known: lengths mm, springs N/mm. */
export const USUAL = {
  springNPerMm: 2,
  springArmMm: 33,
  saddleMm: 11,
  /** Nut to tuner and saddle to anchor together. */
  behindMm: 150,
  screwPitchMm: 1.8,
  /** Geometric part of the stiffness, as a share of the springs'. */
  geometric: 0.2,
};

/** The linear law's constants of a bridge as it is guessed before anything was read. */
export interface BridgeLaw {
  /** Tension at the target, N; axial stiffness over the whole length, N/mm; lever of the saddle, mm; speaking length, mm. */
  tensionN: number[];
  stiffNPerMm: number[];
  leverMm: number[];
  lengthMm: number;
  /** Turning stiffness of springs and geometry, N mm a radian. */
  turning: number;
  /** Angle that a turn of the claw, both screws alike, would give if the strings did not resist: times turning, N mm. */
  clawNmm: number;
}

/** A bridge that is held is as good as this much stiffer. */
const HELD = 1e6;

/** Springs that would have to pull more than this each do not hold the strings, N (house estimate; usual ones carry 20 to 70). */
const MOST_SPRING_N = 130;

/** Can so many springs hold these strings at all? */
export const springsHold = (law: BridgeLaw, springs: number): boolean =>
  law.tensionN.reduce((sum, t, i) => sum + t * law.leverMm[i]!, 0) <= springs * MOST_SPRING_N * USUAL.springArmMm;

const materialOf = (s: BridgeStringSpec) => (s.wound ? 'wound-steel-nickel' : 'plain-steel');

/** The law from what an owner says; undefined where a string's pull cannot be known. */
export function lawOf(spec: BridgeSpec): BridgeLaw | undefined {
  const loads = spec.strings.map((s) =>
    stringLoad({
      material: materialOf(s),
      gaugeMm: s.gaugeMm,
      lengthMm: spec.scaleMm,
      frequencyHz: s.targetHz,
    }),
  );
  if (loads.some((l) => !l)) return undefined;
  const springs = spec.springs * USUAL.springNPerMm * USUAL.springArmMm ** 2;
  return {
    tensionN: loads.map((l) => l!.tensionN),
    stiffNPerMm: spec.strings.map((s) => {
      // A core that is known carries as a plain string of its diameter.
      const axialN = s.coreMm ? axialStiffnessN('plain-steel', s.coreMm) : axialStiffnessN(materialOf(s), s.gaugeMm);
      return axialN! / (spec.scaleMm + USUAL.behindMm);
    }),
    leverMm: spec.strings.map(() => USUAL.saddleMm),
    lengthMm: spec.scaleMm,
    turning: springs * (1 + USUAL.geometric) * (spec.held ? HELD : 1),
    clawNmm: spec.springs * USUAL.springNPerMm * USUAL.springArmMm * spec.screwPitchMm,
  };
}

/** The linear law in y = T / T_target = 2^(cents/600): g, w and what a turn of the claw does to the angle. */
export interface Coupling {
  /** How much of its y a string loses for each radian forward. */
  g: number[];
  /** Radians forward for each unit of y that a string is wound. */
  w: number[];
  /** Radians back for a turn of the claw. */
  claw: number;
  /** Of its y by stretch alone, and of its pitch by the shorter length, a radian. */
  stretch: number[];
  shorter: number[];
  lambda: number;
}
/** How a floating bridge couples its strings: the linear law about the state in which all are right (physics.md, floating bridge). */
export function couplingOf(law: BridgeLaw): Coupling {
  const { tensionN, stiffNPerMm, leverMm, lengthMm, turning, clawNmm } = law;
  const D = turning + stiffNPerMm.reduce((sum, k, i) => sum + k * leverMm[i]! ** 2, 0);
  const stretch = stiffNPerMm.map((k, i) => (k * leverMm[i]!) / tensionN[i]!);
  const shorter = leverMm.map((h) => (2 * h) / lengthMm);
  const g = stretch.map((s, i) => s - shorter[i]!);
  const w = tensionN.map((t, i) => (t * leverMm[i]!) / D);
  return { g, w, claw: clawNmm / D, stretch, shorter, lambda: g.reduce((sum, x, i) => sum + x * w[i]!, 0) };
}

/** What the others rise by when one string is taken off, cents: its pull and its stiffness are gone, the springs take the bridge back. */
export function riseWithout({ g, w, stretch }: Coupling, off: number): (number | null)[] {
  const back = w[off]! / (1 - stretch[off]! * w[off]!);
  return g.map((x, j) => (j === off ? null : centsOf(1 + x * back)));
}

/**
 * How far the bridge leans from where its strings were right, rad forward: least squares on dy_j = -g_j angle.
 * @param cents readings of strings that nobody has turned since
 */
export function leanOf({ g }: Coupling, cents: readonly number[]): number {
  const along = g.reduce((sum, x, j) => sum + x * (yOf(cents[j]!) - 1), 0);
  return -along / g.reduce((sum, x) => sum + x * x, 0);
}

/** y = T / T_target of a reading in cents, and back. */
export const yOf = (cents: number): number => Math.pow(2, cents / 600);
/** The reading of a y, cents: 600 log2 y. */
export const centsOf = (y: number): number => 600 * Math.log2(Math.max(1e-6, y));
