import type { StringLoad } from './load';
import type { StringMaterial } from './materials';
import type { FamilyTraits, TunerKind } from './builds';
import { axialStiffnessN, CENTS_PER_LN_TENSION, centsPerMm, clockMinutes, takenUpPerTurnMm } from './winding';

/** How far a string is to be turned, with which tuner. */
export interface Turn {
  by: TunerKind | 'fine-tuner';
  /** Turns of the hand, up positive. */
  turns: number;
}

/** Length beyond nut and saddle that stretches too, as a share of the speaking length (house estimate). */
const AFTER_LENGTHS = 0.2;
/** How much a string is stretched at its pitch where its stiffness is not known, share of its length (house estimates). */
const STRAIN: Partial<Record<StringMaterial, number>> = {
  'plain-steel': 0.004,
  'wound-steel-nickel': 0.004,
  'wound-steel-bronze': 0.004,
  'wound-steel-flat': 0.004,
  'plain-nylon': 0.07,
  'wound-nylon': 0.05,
  fluorocarbon: 0.08,
  gut: 0.03,
  'synthetic-bowed': 0.035,
};
/** A fine tuner's reach, cents either way from the middle of its travel, and what it takes up in one turn, mm (house estimates). */
const FINE_REACH_CENTS = 60;
const FINE_MM_PER_TURN = 0.25;

/** Cents by which 1 mm taken up raises a string; by its stiffness, else by what its material is usually stretched. */
function centsPerMmOf(plan: Stretched, load: StringLoad | undefined): number | undefined {
  const totalMm = plan.lengthMm * (1 + AFTER_LENGTHS);
  const stiffness = axialStiffnessN(plan.material, plan.gaugeMm ?? undefined);
  if (stiffness !== undefined && load) return centsPerMm(stiffness, load.tensionN, totalMm);
  const strain = STRAIN[plan.material];
  return strain === undefined ? undefined : CENTS_PER_LN_TENSION / (strain * totalMm);
}

interface Stretched {
  material: StringMaterial;
  gaugeMm: number | null;
  lengthMm: number;
}

/**
 * Cents for one turn of the hand at the tuner, and at the fine tuner where there is one; undefined where nothing is known of
 * the string. What slips in the coil and sticks at the nut makes it less: a start, to be corrected by what is heard.
 */
export function centsPerTurn(
  plan: Stretched,
  load: StringLoad | undefined,
  { postMm, ratio, fineTuners }: Pick<FamilyTraits, 'postMm' | 'ratio' | 'fineTuners'>,
): { tuner: number; fine: number | null } | undefined {
  const perMm = centsPerMmOf(plan, load);
  if (perMm === undefined) return undefined;
  return {
    tuner: perMm * takenUpPerTurnMm(postMm, ratio),
    fine: fineTuners ? perMm * FINE_MM_PER_TURN : null,
  };
}

/**
 * The turn for a change in cents: the fine tuner where it reaches so far, else the tuner.
 * @param gain how much more this string moves for a turn than was reckoned, by its own bring-ups; 1 where nothing was seen
 */
export function turnOf(cents: number, per: { tuner: number; fine: number | null }, kind: TunerKind, gain = 1): Turn {
  return per.fine !== null && Math.abs(cents) <= FINE_REACH_CENTS
    ? { by: 'fine-tuner', turns: cents / (per.fine * gain) }
    : { by: kind, turns: cents / (per.tuner * gain) };
}

/** Parts of a turn that a hand can tell apart, and their words. */
const PARTS: [number, string][] = [
  [1 / 16, 'a touch'],
  [1 / 8, 'an eighth of a turn'],
  [1 / 4, 'a quarter turn'],
  [1 / 2, 'half a turn'],
  [3 / 4, 'three quarters of a turn'],
  [1, 'a full turn'],
];

/** How far, as one says it: parts of a turn on gears and fine tuners, minutes on a clock face on pegs and pins. */
export function farWords({ by, turns }: Turn): string {
  const size = Math.abs(turns);
  const careful = size > 1 ? ', pluck all the while' : '';
  if (by === 'friction-peg' || by === 'pin') {
    const minutes = clockMinutes(size, 1);
    if (minutes < 0.75) return 'less than a minute on the clock face';
    return minutes < 1.5
      ? 'about a minute on the clock face'
      : `about ${Math.round(minutes)} minutes on the clock face${careful}`;
  }
  const of = by === 'fine-tuner' ? ' of the fine tuner' : '';
  if (size > 1.25)
    return `about ${size < 10 ? (Math.round(2 * size) / 2).toString().replace('.5', ' and a half') : Math.round(size)} turns${of}${careful}`;
  const nearest = PARTS.reduce((best, part) =>
    Math.abs(Math.log(part[0] / size)) < Math.abs(Math.log(best[0] / size)) ? part : best,
  );
  return `${nearest[0] > 1 / 16 ? 'about ' : ''}${nearest[1]}${of}`;
}

/** Which way up is, by the usual build of each tuner (house defaults); `other` where this string was found to go the other way. */
const WAYS: Record<Turn['by'], [usual: string, other: string]> = {
  geared: ['top edge away from you', 'top edge towards you'],
  'friction-peg': ['top away from you, pushing in', 'top towards you, pushing in'],
  pin: ['clockwise, seen from above', 'anticlockwise, seen from above'],
  'fine-tuner': ['clockwise, seen from above', 'anticlockwise, seen from above'],
};

/** Which way to turn, up or down. @param other this string's tuner goes the other way than usual */
export const wayWords = ({ by, turns }: Turn, other: boolean): string => WAYS[by][turns < 0 !== other ? 1 : 0];

/**
 * How far a fine tuner can still bring its string up, cents, from what it was brought up since a peg last moved it: a
 * bring-up further than its reach was the peg's, and leaves it in the middle.
 * @param offsets pairs as found, as left; oldest first
 */
export function fineTravelLeft(offsets: readonly { found: number; left: number }[]): number {
  const used = offsets.reduce((sum, { found, left }) => {
    const up = left - found;
    return Math.abs(up) > FINE_REACH_CENTS ? 0 : sum + up;
  }, 0);
  return FINE_REACH_CENTS - used;
}
