import { pull } from '../simulate';
import type { CauseBuild, CauseTest } from './kinds';
import type { Specimen } from './specimen';

/** How hard a hand pulls this time, over how it usually does: none pulls twice alike. */
const HARDNESS = [0.3, 1.7] as const;

/** What one way of pulling does beside sliding: coil, creep, lash and peg give. @param hard over a full stretch @returns the fall, cents */
function gives(s: Specimen, hard: number): number {
  const coil = s.coil.pool * s.coil.share * Math.min(1, hard);
  s.coil.pool -= coil;
  const creep = s.creep.pool * s.creep.pulled * Math.min(1, hard);
  s.creep.pool -= creep;
  const lash = s.lash.free ? s.lash.cents * s.random.between(0.5, 1) : 0;
  if (lash > 0) s.lash.free = false;
  const peg = hard > 0.5 || s.random.uniform() < 0.5 ? s.peg.slip * Math.min(1.2, hard) * s.random.between(0.3, 1) : 0;
  s.peg.slip *= s.peg.tires;
  return coil + creep + lash + peg;
}

/** One segment is pulled and let go: the change of the speaking length's pitch. */
function pulled(s: Specimen, segment: number, cents: number, hard: number): number {
  const before = s.run.tensions[s.run.speaking]!;
  const hardness = s.random.between(...HARDNESS);
  pull(s.run, segment, hardness * cents);
  return s.run.tensions[s.run.speaking]! - before - (cents > 0 ? gives(s, hardness * hard) : 0);
}

/** A loose clamp lets the string by; less where it went that way before, all of it again once it went the other way. */
function byClamp({ clamp, random }: Specimen, toward: 'sharp' | 'flat', share: number, again: boolean): number {
  if (again) clamp[toward] *= random.between(0, 0.4);
  const give = share * clamp[toward] * random.between(toward === 'sharp' ? 0.5 : 0, 1.3);
  clamp[toward === 'sharp' ? 'flat' : 'sharp'] = clamp.cents;
  return give;
}

/** A floating bridge that binds is moved toward one of its two ends, at least by this share of the way: cents, of all strings. */
function leans({ bridge, random }: Specimen, toward: -1 | 1, least: number): number {
  const way = (toward - bridge.at) * random.between(least, 1);
  bridge.at += way;
  return 0.5 * bridge.span * way;
}

/** What is seen of a test: own change, and that of the others. */
export interface Seen {
  own: number;
  others: number;
  scatter: number;
}

/** The test is done once; the specimen goes on from there. @param again the second time */
export function doTest(s: Specimen, test: CauseTest, again: boolean, build: CauseBuild): Seen {
  const { run, rises, random } = s;
  const drift = s.room.perTest * random.normal();
  const seen = (own: number, others = 0): Seen => ({
    own: own + drift,
    others: others + drift,
    scatter: s.wear.scatter,
  });
  const headAt = run.speaking - 1;
  const tailAt = run.speaking + 1;
  const locked = build.nut === 'locking';
  /** Pushed away and back, a bridge that does not come home leaves all strings off. */
  const bridge = (toward: -1 | 1) => {
    const stray = s.bridge.astray * random.between(0.3, 1.2) * (random.uniform() < 0.5 ? -1 : 1) * (again ? 0.6 : 1);
    return leans(s, toward, 0.6) + stray;
  };
  // A bend pulls a floating bridge along, and one that binds does not come home.
  switch (test) {
    case 'from-below-above': {
      // Tuned up, the head pulls the string over nut and saddle; tuned down it lets it back: the limits of all contacts.
      const toward = again ? -1 : 1;
      if (!locked) {
        const hold = run.holds[headAt]!.sliding;
        run.tensions[headAt] = run.tensions[run.speaking]! + toward * hold;
        if (headAt > 0) run.tensions[0] = run.tensions[headAt]! + toward * run.holds[0]!.sliding;
        run.tensions[tailAt] = run.tensions[run.speaking]! - toward * run.holds[run.speaking]!.sliding;
        s.lash.free = again;
      }
      const all = leans(s, -1, 0.2);
      return seen(pulled(s, run.speaking, rises.bend, 0.35) + all, all);
    }
    case 'big-bend': {
      const all = leans(s, -1, 0.4);
      return seen(pulled(s, run.speaking, rises.bigBend, 0.7) - byClamp(s, 'flat', 0.4, again) + all, all);
    }
    case 'press-behind-nut':
      if (locked) return seen(byClamp(s, 'sharp', 1, again) + 0.3 * random.normal());
      return seen(pulled(s, headAt, rises.pressHead, 0.25));
    case 'press-behind-tree':
      if (locked) return seen(byClamp(s, 'sharp', 0.6, again));
      return seen(pulled(s, 0, rises.pressTree, 0.25));
    case 'press-behind-saddle':
      return seen(pulled(s, tailAt, rises.pressTail, 0.15));
    case 'dive': {
      const own = pulled(s, run.speaking, -rises.dive, 0);
      const all = bridge(-1);
      return seen(own + byClamp(s, 'sharp', 1.4, again) + all, all);
    }
    case 'pull-up': {
      const own = pulled(s, run.speaking, rises.pullUp, 0.4);
      const all = bridge(1);
      return seen(own - byClamp(s, 'flat', 0.5, again) + all, all);
    }
    case 'side-stretch': {
      const all = leans(s, -1, 0.3);
      return seen(pulled(s, run.speaking, rises.side, 1) - byClamp(s, 'flat', 0.7, again) + all, all);
    }
    case 'wait': {
      const creep = s.creep.pool * s.creep.waited;
      s.creep.pool -= creep;
      const room = Math.sign(s.room.since) * 0.25 * Math.abs(s.room.since) * random.uniform();
      return seen(room - creep - s.peg.waits * random.between(0, 1), room);
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
