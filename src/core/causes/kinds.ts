import { CAUSES, TESTS, type Cause, type CauseTest } from '../codes';
import type { SettlingMaterial } from '../settling';

/** Time that a test takes with both its readings, s (house estimates). */
export const EFFORT_S: Record<CauseTest, number> = {
  'from-below-above': 40,
  'big-bend': 20,
  'press-behind-nut': 20,
  'press-behind-tree': 20,
  'pluck-behind-nut': 60,
  'press-behind-saddle': 20,
  dive: 25,
  'pull-up': 25,
  'side-stretch': 25,
  wait: 620,
  warm: 600,
  octave: 25,
  posture: 25,
  reference: 30,
  'firm-fret': 25,
};

/** How the instrument is built, as far as causes go. */
export interface CauseBuild {
  bridge: 'fixed' | 'floating' | 'tailpiece';
  nut: 'plain' | 'locking';
  tree: boolean;
  tuners: 'geared' | 'friction' | 'pin';
  /** Undefined where nobody said. */
  frets?: boolean | undefined;
}

export interface CauseString {
  material: SettlingMaterial;
  lengthMm: number;
  /** From the nut to the tuner, or to the tree where there is one. */
  headMm?: number | undefined;
  targetHz: number;
  gaugeMm?: number | undefined;
  ageDays?: number | undefined;
  /** It was brought to pitch from above, last. */
  fromAbove?: boolean | undefined;
}

/** Change since it was last tuned: this string, mean and spread of the others, cents. */
export interface SinceLast {
  test: 'since-last';
  own: number;
  others: number;
  othersSd: number;
}

/** Cents after minus before, done twice. Of a pluck behind the nut: how much further the short length went than the speaking one, by a bend, and by a press. */
export interface TestResult {
  test: CauseTest;
  first: number;
  second?: number | undefined;
  /** Mean change of the other strings at the first. */
  others?: number | undefined;
  /** Standard deviation of three readings. */
  scatter?: number | undefined;
}
export type Evidence = SinceLast | TestResult;

/** Whether frets press on the string between nut and bridge. */
export const hasFrets = ({ frets, bridge, tuners }: CauseBuild): boolean =>
  frets ?? (bridge !== 'tailpiece' && tuners !== 'pin');

/** Tests that an instrument allows. */
export function testsOf(build: CauseBuild): CauseTest[] {
  const { bridge, nut, tree } = build;
  return TESTS.filter((t) => {
    if (t === 'dive' || t === 'pull-up') return bridge === 'floating';
    if (t === 'press-behind-tree') return tree;
    // The short length between nut and tree speaks only where the string runs free over both.
    if (t === 'pluck-behind-nut') return tree && nut === 'plain';
    // A bridge that stands by the strings' pull alone tips or shifts.
    if (t === 'press-behind-saddle') return bridge !== 'tailpiece' && !(nut === 'locking' && bridge === 'floating');
    return t === 'octave' || t === 'firm-fret' ? hasFrets(build) : true;
  });
}

/** Causes that an instrument can have. */
export function causesOf(build: CauseBuild): Cause[] {
  const { bridge, nut, tree, tuners } = build;
  const locked = nut === 'locking';
  return CAUSES.filter((c) => {
    switch (c) {
      case 'nut-friction':
      case 'saddle-friction':
      case 'winding-slip':
        return !locked;
      case 'tree-friction':
        return tree && !locked;
      case 'gear-backlash':
        return tuners === 'geared' && !locked;
      case 'peg-slip':
        return tuners !== 'geared';
      case 'pivot-friction':
      case 'springs-moved':
        return bridge === 'floating';
      case 'loose-clamp':
        return locked;
      case 'pressing':
        return hasFrets(build);
      default:
        return true;
    }
  });
}

/** How common each fault is among strings that are asked about (house estimates). */
const COMMON: Record<Cause, number> = {
  'nut-friction': 0.17,
  'tree-friction': 0.06,
  'saddle-friction': 0.06,
  'winding-slip': 0.08,
  'fresh-string': 0.14,
  'gear-backlash': 0.06,
  'peg-slip': 0.09,
  'pivot-friction': 0.06,
  'loose-clamp': 0.05,
  'springs-moved': 0.03,
  room: 0.09,
  'worn-string': 0.05,
  'wrong-reference': 0.04,
  'neck-flex': 0.03,
  pressing: 0.04,
  none: 0.1,
};
/** A string is new for a day, settles while it is young, and has settled when it is old, days (house estimates). */
const NEW_DAYS = 1;
const YOUNG_DAYS = 4;
const OLD_DAYS = 40;

/** Chances before anything was tested; sum 1. */
export function priorOf(build: CauseBuild, { ageDays }: CauseString): Map<Cause, number> {
  const weights = causesOf(build).map((c): [Cause, number] => {
    let w = COMMON[c];
    if (ageDays !== undefined) {
      if (c === 'fresh-string')
        w *= ageDays <= NEW_DAYS ? 4 : ageDays < YOUNG_DAYS ? 2 : ageDays > OLD_DAYS ? 0.1 : 0.7;
      if (c === 'winding-slip') w *= ageDays < YOUNG_DAYS ? 1.4 : ageDays > OLD_DAYS ? 0.4 : 1;
      if (c === 'worn-string') w *= ageDays < YOUNG_DAYS ? 0.1 : ageDays > OLD_DAYS ? 1.6 : 0.7;
    }
    return [c, w];
  });
  const sum = weights.reduce((s, [, w]) => s + w, 0);
  return new Map(weights.map(([c, w]) => [c, w / sum]));
}
