import { pull, slide } from '../simulate';
import type { CauseBuild } from './kinds';
import type { CauseTest } from '../codes';
import { tuned, type Specimen } from './specimen';

/** No hand pulls twice alike: spread of one person's pulls, share (house estimate). */
const BY_ACT = 0.15;

/** What a rise makes give beside sliding: coil, peg, lash and bedding. @param felt the rise at coil and peg @param share of a full stretch @returns the fall, cents */
function gives(s: Specimen, rise: number, felt: number, share: number): number {
  const { random, coil, peg, lash, creep } = s;
  let fall = 0;
  if (felt > coil.holds) {
    const by = coil.gives * random.between(0.3, 1);
    // It has been drawn tight by this pull: it seldom gives to the same again.
    coil.holds = Math.max(coil.holds, felt * random.between(0.6, 1.5));
    fall += by;
  }
  if (felt > peg.holds) {
    fall += peg.drops * Math.max(0.1, 1 + peg.varies * random.normal()) * Math.min(1, 0.3 + share);
    peg.holds *= 1 + peg.varies * random.between(-0.2, 0.8);
  }
  if (lash.left > 0) {
    fall += (lash.cents / lash.jolts) * random.between(0.6, 1.1);
    lash.left--;
  }
  const bed = creep.pool * creep.pulled * Math.min(1, share);
  creep.pool -= bed;
  return fall + bed + 0.1 * creep.delayed * rise * random.uniform();
}

/** Of a press behind nut or tree, so much reaches coil and peg: it is the string there that is pushed aside, not they. */
const reaches = (s: Specimen, segment: number): number => (segment < s.run.speaking ? s.reach : 1);

/** One segment is pulled and let go: the change of the speaking length's pitch. @param share of a full stretch */
function pulled(s: Specimen, segment: number, cents: number, share: number): number {
  const { run } = s;
  const before = run.tensions[run.speaking]!;
  const rise = cents * (1 + BY_ACT * s.random.normal());
  // Coil and peg feel what comes to them over the contacts between.
  const felt = pull(run, segment, rise);
  return run.tensions[run.speaking]! - before - (rise > 0 ? gives(s, rise, reaches(s, segment) * felt, share) : 0);
}

/** A pluck shakes loose a part of what is stuck. */
function shaken({ run, relief }: Specimen): void {
  const { lengths, tensions, holds } = run;
  holds.forEach(({ sliding }, i) => {
    const apart = tensions[i]! - tensions[i + 1]!;
    if (Math.abs(apart) < STUCK * sliding) return;
    const length = (RELIEVED * relief * apart) / (1 / lengths[i]! + 1 / lengths[i + 1]!);
    tensions[i]! -= length / lengths[i]!;
    tensions[i + 1]! += length / lengths[i + 1]!;
  });
  slide(run);
}
const STUCK = 0.6;
const RELIEVED = 0.2;

/** A floating bridge is moved toward one of its two ends, at least by this share of the way: cents, of all strings. */
function leans({ bridge, random }: Specimen, toward: -1 | 1, least: number): number {
  const way = (toward - bridge.at) * random.between(least, 1);
  bridge.at += way;
  return 0.5 * bridge.span * way;
}

/** What is seen of a test: own change, and that of the others. */
export interface TestSeen {
  own: number;
  others: number;
  scatter: number;
}

/** The test is done once; the specimen goes on from there. @param again the second time */
export function doTest(s: Specimen, test: CauseTest, again: boolean, build: CauseBuild): TestSeen {
  const { run, rises, random } = s;
  const drift = s.room.perTest * random.normal();
  const seen = (own: number, others = 0): TestSeen => ({
    own: own + drift,
    others: others + drift,
    scatter: s.wear.scatter,
  });
  const headAt = run.speaking - 1;
  const tailAt = run.speaking + 1;
  const floats = build.bridge === 'floating';
  /** Pushed away and back, a bridge that does not come home leaves all strings off. */
  const bridge = (toward: -1 | 1) => {
    const { astray, how } = s.bridge;
    const stray = how === 'once' ? 0 : how === 'jumps' ? 0.6 * astray * random.normal() : 0.4 * astray * toward;
    return leans(s, toward, 0.6) + stray;
  };
  // A bend pulls a floating bridge along, and one that binds does not come home.
  const along = (least: number) => (floats ? leans(s, -1, least) : 0);
  shaken(s);
  switch (test) {
    case 'from-below-above': {
      // Tuned up, the head pulls the string over nut and saddle; tuned down it lets it back: the limits of all contacts.
      tuned(s, again, 0.5);
      if (!again) s.lash.left = 0;
      const all = along(0.2);
      return seen(pulled(s, run.speaking, rises.bend, 0.35) + all, all);
    }
    case 'big-bend': {
      const all = along(0.4);
      return seen(pulled(s, run.speaking, rises.bigBend, 0.7) + all, all);
    }
    case 'press-behind-nut':
      return seen(pulled(s, headAt, rises.pressHead, 0.25));
    case 'pluck-behind-nut': {
      // The short length against the speaking one: the contact between them holds, or the one behind both.
      const apart = () => run.tensions[headAt]! - run.tensions[run.speaking]!;
      const before = apart();
      if (again) pulled(s, headAt, rises.pressHead, 0.25);
      else pulled(s, run.speaking, rises.bigBend, 0.7);
      return { own: apart() - before, others: drift, scatter: s.wear.scatter };
    }
    case 'press-behind-tree':
      return seen(pulled(s, 0, rises.pressTree, 0.25));
    case 'press-behind-saddle':
      return seen(pulled(s, tailAt, rises.pressTail, 0.15));
    case 'dive': {
      const own = pulled(s, run.speaking, -rises.dive, 0);
      const all = bridge(-1);
      return seen(own + all, all);
    }
    case 'pull-up': {
      const own = pulled(s, run.speaking, rises.pullUp, 0.4);
      const all = bridge(1);
      return seen(own + all, all);
    }
    case 'side-stretch': {
      const all = along(0.3);
      return seen(pulled(s, run.speaking, rises.side, 1) + all, all);
    }
    case 'wait': {
      const creep = s.creep.pool * s.creep.waited;
      s.creep.pool -= creep;
      const room = 0.25 * s.room.since * random.uniform();
      return seen(room - creep - s.peg.turns * random.between(0.3, 1.2), room);
    }
    case 'warm':
      return seen(s.room.warm * random.between(0.7, 1.3), s.room.warm * random.between(0.7, 1.3));
    case 'octave':
      return seen(s.wear.octave - drift);
    case 'posture':
      return seen(s.posture - drift, s.posture - drift);
    case 'reference':
      return seen(s.reference - drift, s.reference - drift);
    case 'firm-fret':
      return seen(s.firm * random.between(0.7, 1.3));
  }
}
