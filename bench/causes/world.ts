import type { CauseBuild, CauseString, SinceLast, TestResult } from '../../src/core/causes';
import type { Cause, CauseTest } from '../../src/core/codes';
import type { Random } from '../../src/core/simulate';
import { clamp } from '../../src/core/base';

/**
 * Strings with faults by laws that are not those of the finder: no segments, but for each place that holds a position between two
 * limits, pushed by every action as far as it goes; limits that wear, stretch that comes late, lash that jolts, a room that wanders.
 */
export interface Case {
  build: CauseBuild;
  string: CauseString;
  cause: Cause;
  sigmaCents: number;
  since: SinceLast;
  /** Both times of a test, in the order of asking. */
  test: (test: CauseTest) => TestResult;
}

export const BUILDS: [CauseBuild, CauseString['material'][]][] = [
  [
    { bridge: 'fixed', nut: 'plain', tree: false, tuners: 'geared' },
    ['plain-steel', 'wound-steel', 'plain-nylon', 'wound-nylon'],
  ],
  [{ bridge: 'fixed', nut: 'plain', tree: true, tuners: 'geared' }, ['plain-steel', 'wound-steel']],
  [{ bridge: 'floating', nut: 'plain', tree: true, tuners: 'geared' }, ['plain-steel', 'wound-steel']],
  [{ bridge: 'floating', nut: 'locking', tree: false, tuners: 'geared' }, ['plain-steel', 'wound-steel']],
  [
    { bridge: 'tailpiece', nut: 'plain', tree: false, tuners: 'friction', frets: false },
    ['synthetic-bowed', 'gut', 'plain-steel'],
  ],
  [{ bridge: 'tailpiece', nut: 'plain', tree: false, tuners: 'pin' }, ['plain-steel', 'gut']],
];
/** How common each fault is here. */
const COMMON: Partial<Record<Cause, number>> = {
  'nut-friction': 18,
  'tree-friction': 7,
  'saddle-friction': 6,
  'winding-slip': 9,
  'fresh-string': 14,
  'gear-backlash': 6,
  'peg-slip': 9,
  'pivot-friction': 7,
  'loose-clamp': 5,
  'springs-moved': 3,
  room: 8,
  'worn-string': 6,
  'wrong-reference': 4,
  'neck-flex': 3,
  pressing: 4,
};
const NONE = 0.1;
const TWO = 0.1;
const GROSS = 0.03;

export const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random.uniform() * list.length)]!;

export function pickCause(random: Random, possible: readonly Cause[]): Cause {
  if (random.uniform() < NONE) return 'none';
  const faults = possible.filter((c) => c !== 'none');
  let at = random.uniform() * faults.reduce((s, c) => s + COMMON[c]!, 0);
  return faults.find((c) => (at -= COMMON[c]!) < 0) ?? faults[0]!;
}

/** How far each action pushes each place towards its flat (−) or sharp (+) limit, of the whole way. */
const PUSH: Partial<Record<CauseTest, { nut: number; tree: number; saddle: number }>> = {
  'big-bend': { nut: -1.4, tree: -0.9, saddle: -1.2 },
  'press-behind-nut': { nut: 2.2, tree: 0.6, saddle: 0 },
  'press-behind-tree': { nut: 0.3, tree: 2.2, saddle: 0 },
  'press-behind-saddle': { nut: 0, tree: 0, saddle: 2 },
  dive: { nut: 1.8, tree: 1.4, saddle: 1.6 },
  'pull-up': { nut: -1, tree: -0.6, saddle: -0.9 },
  'side-stretch': { nut: -1.3, tree: -0.8, saddle: -1.1 },
};

export function drawCase(random: Random, possibleOf: (build: CauseBuild) => Cause[]): Case {
  const [build, materials] = pick(random, BUILDS);
  const possible = possibleOf(build);
  const cause = pickCause(random, possible);
  const second = cause !== 'none' && random.uniform() < TWO ? pickCause(random, possible) : 'none';
  const size = (c: Cause, low: number, high: number) =>
    c === cause
      ? low * (high / low) ** random.uniform()
      : c === second
        ? 0.5 * low * (high / low) ** random.uniform()
        : 0;
  const material = pick(random, materials);
  const soft = material.includes('steel') ? 1 : 0.7;
  const places = {
    nut: { limit: random.between(0, 1.6) + soft * size('nut-friction', 5, 34), x: 0 },
    tree: { limit: build.tree ? random.between(0, 1.2) + soft * size('tree-friction', 5, 30) : 0, x: 0 },
    saddle: { limit: random.between(0, 1) + soft * size('saddle-friction', 4, 20), x: 0 },
  };
  if (build.nut === 'locking') places.nut.limit = places.saddle.limit = 0;
  for (const p of Object.values(places))
    p.x = random.uniform() < 0.5 ? random.between(-1, -0.2) : random.between(-1, 1);
  let coil = size('winding-slip', 8, 45) + random.between(0, 1);
  let fresh = size('fresh-string', 10, 80) + random.between(0, 2);
  let late = 0;
  const lash = size('gear-backlash', 5, 28) + random.between(0, 0.8);
  let loose = random.uniform() < 0.35;
  let peg = size('peg-slip', 8, 110);
  const pivot = size('pivot-friction', 4, 22);
  let lean = 0;
  const springs = size('springs-moved', 5, 25);
  let loosened = size('loose-clamp', 6, 28);
  const room = size('room', 4, 22) * (random.uniform() < 0.5 ? -1 : 1);
  const worn = size('worn-string', 3, 15);
  const reference = size('wrong-reference', 4, 30) * (random.uniform() < 0.5 ? -1 : 1);
  const flex = size('neck-flex', 3, 14) * (random.uniform() < 0.5 ? -1 : 1);
  const press = size('pressing', 4, 20);
  const firmBase = random.between(0.5, 4);
  const octaveBase = 1.5 * random.normal();
  let wander = 0;
  const sigmaCents = random.between(0.25, 0.6);

  const friction = () => Object.values(places).reduce((s, p) => s + 0.5 * p.limit * p.x, 0);
  const push = (name: keyof typeof places, by: number) => {
    const p = places[name];
    // A place that holds much is pushed less far by the same hand.
    p.x = clamp(p.x + (by * 12) / (8 + p.limit) / (random.uniform() < 0.2 ? 2 : 1), -1, 1);
    p.limit *= 1 + 0.03 * random.normal();
  };
  const gross = () => (random.uniform() < GROSS ? 25 * random.normal() : 0);
  const noise = () => sigmaCents * random.normal();

  const falls =
    -random.between(0, 0.8) * Object.values(places).reduce((s, p) => s + p.limit, 0) -
    random.between(0.2, 0.9) * (coil + fresh) -
    random.between(0, 1) * lash -
    random.between(0.1, 1) * peg -
    random.between(0.2, 1) * loosened +
    (worn > 0 ? 2.5 * random.normal() : 0);
  const all =
    room +
    reference * -1 +
    random.between(-1, 0.6) * pivot +
    random.between(-1.4, 1.4) * springs +
    random.between(0, 1) * flex +
    0.7 * random.normal();
  const others = all - (fresh > 5 && random.uniform() < 0.45 ? random.between(0.2, 1) * fresh : 0);
  const since: SinceLast = {
    test: 'since-last',
    own: falls + all * random.between(0.6, 1.4) + noise() + gross(),
    others: others + 0.4 * noise(),
    othersSd: Math.abs(0.8 + 0.25 * Math.abs(others) * random.uniform() + 0.3 * random.normal()),
  };

  /** One time of a test: own change and the others'. */
  const once = (test: CauseTest, again: boolean): { own: number; others: number } => {
    const before = friction();
    let own = 0;
    let all2 = 0;
    const pulls =
      { 'big-bend': 0.7, 'pull-up': 0.4, 'side-stretch': 1.1, 'from-below-above': 0.3 }[test as string] ?? 0;
    if (test === 'from-below-above') {
      // Tuned up, the string is drawn over the saddle too: there it stands at the other end.
      for (const p of [places.nut, places.tree]) p.x = again ? 1 : -1;
      places.saddle.x = again ? -1 : 1;
      const from = friction();
      for (const name of ['nut', 'tree', 'saddle'] as const) push(name, -0.9);
      own += friction() - from;
      if (again) loose = true;
    } else {
      const pushes = PUSH[test];
      if (pushes) for (const name of ['nut', 'tree', 'saddle'] as const) push(name, pushes[name]);
      own += friction() - before;
    }
    if (pulls > 0) {
      const give = coil * Math.min(0.9, pulls * random.between(0.5, 1.2));
      coil -= give;
      const stretch = fresh * Math.min(0.6, 0.4 * pulls * random.between(0.6, 1.4));
      fresh -= stretch;
      late += 0.25 * stretch;
      own -= give + stretch;
      if (loose) {
        const jolt = lash * (random.uniform() < 0.3 ? random.between(0, 0.4) : random.between(0.8, 1.1));
        own -= jolt;
        loose = false;
      }
      if (peg > 0 && random.uniform() < 0.75) {
        own -= peg * pulls * random.between(0.2, 0.9);
        peg *= random.between(0.5, 1);
      }
    }
    if (build.bridge === 'floating' && (test === 'dive' || test === 'pull-up' || test.endsWith('bend') || pulls > 0)) {
      const to = test === 'pull-up' ? 1 : -1;
      const moved = (to - lean) * random.between(0.5, 1) * (test === 'dive' || test === 'pull-up' ? 1 : 0.6);
      lean += moved;
      const stray =
        springs > 0 && (test === 'dive' || test === 'pull-up')
          ? springs * 0.8 * random.normal() * (again ? 0.5 : 1)
          : 0;
      all2 += 0.6 * pivot * moved + stray;
    }
    if (loosened > 0) {
      const slips =
        { 'press-behind-nut': 1, dive: 1.3, 'pull-up': -0.4, 'side-stretch': -0.8, 'big-bend': -0.4 }[test as string] ??
        0;
      own += slips * loosened * (again ? random.between(0, 0.3) : random.between(0.6, 1));
      loosened *= 0.97;
    }
    const jitter = 0.3 + 0.06 * Math.abs(room);
    wander = 0.6 * wander + jitter * random.normal();
    all2 += wander;
    if (test === 'wait') {
      const creep = 0.12 * fresh + late * 0.5;
      fresh -= 0.12 * fresh;
      late *= 0.5;
      own -= creep + peg * random.between(0, 0.35);
      all2 += 0.2 * room * random.uniform();
    }
    if (test === 'warm')
      all2 += (material.includes('steel') ? -3.5 : -5) * random.between(0.5, 1.6) * (room === 0 ? 0.7 : 1.6);
    if (test === 'octave')
      return { own: octaveBase + (worn > 0 ? worn * (random.uniform() < 0.95 ? 1 : -1) : 0), others: 0 };
    if (test === 'posture') return { own: flex + 0.7 * random.normal(), others: flex + 0.7 * random.normal() };
    if (test === 'reference')
      return { own: reference + 0.3 * random.normal(), others: reference + 0.3 * random.normal() };
    if (test === 'firm-fret') return { own: (firmBase + press) * random.between(0.8, 1.2), others: 0 };
    return { own: own + all2, others: all2 };
  };

  return {
    build,
    string: {
      material,
      lengthMm: random.between(300, 700),
      headMm: random.between(40, 200),
      targetHz: random.between(80, 440),
      ageDays:
        cause === 'fresh-string' ? random.between(0.05, 4) : random.between(0.5, 120) ** (0.6 + 0.6 * random.uniform()),
    },
    cause,
    sigmaCents,
    since,
    test(test) {
      const first = once(test, false);
      const second = once(test, true);
      const between = noise();
      return {
        test,
        first: first.own + between - noise() + gross(),
        second: second.own + noise() - between + gross(),
        others: first.others + 0.5 * noise(),
        scatter: Math.abs(Math.hypot(sigmaCents, worn > 0 ? 0.18 * worn : 0) * (1 + 0.35 * random.normal())),
      };
    },
  };
}
