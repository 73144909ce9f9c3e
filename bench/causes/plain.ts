import type { TestResult } from '../../src/core/causes';
import type { Cause, CauseTest } from '../../src/core/codes';
import type { Random } from '../../src/core/simulate';
import { BUILDS, pick, type Case } from './world';

/**
 * Strings with one fault that answers the same each time, and with nothing else: as a fault is described, without chance but for
 * the readings. A hand's pulls go all the way.
 */
const NOISE_CENTS = 0.15;

/** Where a place that binds stands after each action, −1 at its flat limit, 1 at its sharp one. */
type Ends = Partial<Record<CauseTest, number>>;
const PULLED: Ends = { 'big-bend': -1, 'side-stretch': -1, 'pull-up': -1, dive: 1 };
const ENDS: Record<'nut' | 'tree' | 'saddle', Ends> = {
  nut: { ...PULLED, 'press-behind-nut': 1, 'press-behind-tree': 1 },
  tree: { ...PULLED, 'press-behind-tree': 1 },
  saddle: { ...PULLED, 'press-behind-saddle': 1 },
};
/** How much of what can give does give at a pull. */
const PULLS: Partial<Record<CauseTest, number>> = {
  'big-bend': 0.5,
  'side-stretch': 1,
  'pull-up': 0.4,
  'from-below-above': 0.15,
  'press-behind-nut': 0.1,
  'press-behind-tree': 0.1,
};
/** How far each fault goes, cents; what has none has no size that matters. */
const SIZES: Record<Cause, [number, number]> = {
  none: [1, 1],
  'nut-friction': [5, 30],
  'tree-friction': [5, 30],
  'saddle-friction': [5, 20],
  'winding-slip': [8, 40],
  'fresh-string': [15, 80],
  'gear-backlash': [6, 25],
  'peg-slip': [8, 60],
  'pivot-friction': [5, 20],
  'loose-clamp': [6, 25],
  'springs-moved': [6, 20],
  room: [5, 20],
  'worn-string': [5, 15],
  'wrong-reference': [5, 30],
  'neck-flex': [4, 14],
  pressing: [6, 20],
};

export function plainCase(random: Random, possibleOf: (build: Case['build']) => Cause[]): Case {
  const [build, materials] = pick(random, BUILDS);
  const cause = pick(random, possibleOf(build));
  const [low, high] = SIZES[cause];
  const size = low * (high / low) ** random.uniform();
  const sign = random.uniform() < 0.5 ? -1 : 1;
  /** Nobody played since it was tuned, or somebody did. */
  const played = random.uniform() < 0.7 ? 1 : 0;
  const noise = () => NOISE_CENTS * random.normal();

  let at = played ? -1 : -0.5;
  let left = size;
  let lean = 0;
  let loose = cause === 'gear-backlash';
  let clamped = false;
  const binds = (['nut', 'tree', 'saddle'] as const).find((p) => cause === `${p}-friction`);
  const all = new Set<Cause>(['pivot-friction', 'springs-moved', 'room', 'wrong-reference', 'neck-flex']);
  const once = (test: CauseTest, again: boolean): [own: number, others: number] => {
    const pull = PULLS[test] ?? 0;
    if (test === 'warm') return [-5, -5];
    if (binds) {
      // Tuned from below a string stands flat at nut and tree, and sharp at its saddle; from above the other way round.
      const from = test === 'from-below-above' ? (again === (binds !== 'saddle') ? 1 : -1) : at;
      at = test === 'from-below-above' ? -1 : (ENDS[binds][test] ?? at);
      return [0.5 * size * (at - from), 0];
    }
    switch (cause) {
      case 'winding-slip':
      case 'fresh-string': {
        const share = cause === 'fresh-string' ? 0.5 * pull + (test === 'wait' ? 0.1 : 0) : Math.min(0.9, 2 * pull);
        const give = share * left;
        left -= give;
        return [-give, 0];
      }
      case 'gear-backlash': {
        if (test === 'from-below-above') loose = again;
        const give = loose && pull > 0 ? size : 0;
        if (pull > 0) loose = false;
        return [-give, 0];
      }
      case 'peg-slip':
        return [-size * (pull + (test === 'wait' ? 0.2 : 0)), 0];
      case 'pivot-friction': {
        const to = test === 'dive' ? -1 : test === 'pull-up' ? 1 : lean;
        const moved = 0.5 * size * (to - lean);
        lean = to;
        return [moved, moved];
      }
      case 'springs-moved': {
        const stray =
          test === 'dive' || test === 'pull-up' ? size * (again ? 0.6 : 1) * (random.uniform() < 0.5 ? -1 : 1) : 0;
        return [stray, stray];
      }
      case 'loose-clamp': {
        const give = !clamped && (test === 'press-behind-nut' || test === 'dive') ? size : 0;
        clamped ||= give > 0;
        return [give, 0];
      }
      case 'worn-string':
        return [test === 'octave' ? sign * size : 0, 0];
      case 'wrong-reference':
        return test === 'reference' ? [sign * size, sign * size] : [0, 0];
      case 'neck-flex':
        return test === 'posture' ? [sign * size, sign * size] : [0, 0];
      case 'pressing':
        return [test === 'firm-fret' ? size : 0, 0];
      default:
        return [0, 0];
    }
  };

  const fell = { 'winding-slip': 0.5, 'fresh-string': 0.6, 'peg-slip': 0.6, 'loose-clamp': 0.6 } as Partial<
    Record<Cause, number>
  >;
  const own = binds ? -0.4 * size * played : -(fell[cause] ?? 0) * size * played;
  const others = all.has(cause)
    ? (cause === 'wrong-reference' ? -sign : cause === 'pivot-friction' ? -1 : sign) * 0.7 * size
    : 0;
  return {
    build,
    string: {
      material: pick(random, materials),
      lengthMm: random.between(300, 700),
      headMm: random.between(40, 200),
      targetHz: random.between(80, 440),
      ageDays:
        cause === 'fresh-string'
          ? random.between(0.1, 3)
          : cause === 'worn-string'
            ? random.between(60, 200)
            : random.between(5, 60),
    },
    cause,
    sigmaCents: 0.3,
    since: { test: 'since-last', own: own + others + noise(), others: others + 0.5 * noise(), othersSd: 0.6 },
    test(test): TestResult {
      const [first, firstOthers] = once(test, false);
      const [second] = once(test, true);
      return {
        test,
        first: first + noise(),
        second: second + noise(),
        others: firstOthers + 0.5 * noise(),
        scatter: cause === 'worn-string' ? 0.15 * size : 0.3,
      };
    },
  };
}
