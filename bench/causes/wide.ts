import type { SinceLast, TestResult } from '../../src/core/causes';
import type { Cause, CauseTest } from '../../src/core/codes';
import type { Random } from '../../src/core/simulate';
import { BUILDS, pick, pickCause, type Case } from './world';

/**
 * Strings in wide ranges: segments over contacts by a law of this bench (each contact gives in turn, never all together), a history of
 * playing before the first look, hands that differ by person, clamps, coils and pegs that hold up to a limit and then give. Ranges:
 * ../shared/design/physics.md, section 9, drawn evenly in logarithms.
 */
const TWO = 0.1;
const GROSS = 0.03;
const MISSING = 0.15;

interface Contact {
  limit: number;
  still: number;
}

export function wideCase(random: Random, possibleOf: (build: Case['build']) => Cause[]): Case {
  const [build, materials] = pick(random, BUILDS);
  const possible = possibleOf(build);
  const cause = pickCause(random, possible);
  const second = cause !== 'none' && random.uniform() < TWO ? pickCause(random, possible) : 'none';
  const has = (c: Cause) => c === cause || c === second;
  const even = (low: number, high: number) => low * (high / low) ** random.uniform();
  const log = (spread: number) => Math.exp(spread * random.normal());
  const sign = () => (random.uniform() < 0.5 ? -1 : 1);
  const material = pick(random, materials);
  const steel = material.includes('steel');
  const soft = steel ? 1 : random.between(0.3, 0.7);
  const locked = build.nut === 'locking';

  const head = random.between(0.05, 0.3);
  const lengths = [
    ...(build.tree ? [random.between(0.05, 0.2)] : []),
    head,
    1,
    build.bridge === 'tailpiece' ? random.between(0.12, 0.35) : random.between(0.01, 0.1),
  ];
  const speaking = lengths.length - 2;
  const degrees = Math.PI / 180;
  const contact = (bad: boolean, saddle: boolean): Contact => {
    const limit =
      866 *
      (bad
        ? random.between(0.15, 0.5) * random.between(saddle ? 16 : 6, saddle ? 45 : 20) * degrees * random.between(1, 2)
        : random.between(0.02, 0.15) * random.between(saddle ? 12 : 4, saddle ? 45 : 14) * degrees * log(0.55) * 0.6);
    return { limit, still: random.between(1.1, 1.8) };
  };
  const contacts: Contact[] = [
    ...(build.tree ? [contact(has('tree-friction') && !locked, false)] : []),
    locked
      ? { limit: has('loose-clamp') ? even(20, 260) : even(500, 1500), still: 1.1 }
      : contact(has('nut-friction'), false),
    contact(has('saddle-friction'), true),
  ];
  const tension = lengths.map(() => 0);
  /** One contact after the other gives, until none is over. */
  const settle = () => {
    for (let sweep = 0; sweep < 30; sweep++) {
      let moved = 0;
      contacts.forEach(({ limit, still }, i) => {
        const apart = tension[i]! - tension[i + 1]!;
        if (Math.abs(apart) <= limit * (sweep === 0 ? still : 1)) return;
        const length = (apart - Math.sign(apart) * limit) / (1 / lengths[i]! + 1 / lengths[i + 1]!);
        tension[i]! -= length / lengths[i]!;
        tension[i + 1]! += length / lengths[i + 1]!;
        moved = Math.max(moved, Math.abs(length));
      });
      if (moved < 1e-4) return;
    }
  };
  const relief = random.between(0.03, 0.45);
  const pluck = () => {
    contacts.forEach((c, i) => {
      const apart = tension[i]! - tension[i + 1]!;
      if (Math.abs(apart) < 0.6 * c.limit) return;
      const length = (relief * 0.2 * apart) / (1 / lengths[i]! + 1 / lengths[i + 1]!);
      tension[i]! -= length / lengths[i]!;
      tension[i + 1]! += length / lengths[i + 1]!;
    });
  };

  const person = log(0.38);
  const bend = random.between(80, 220) * person * soft;
  const pulls = {
    bend,
    big: bend * random.between(1.2, 1.9),
    side: bend * random.between(1, 2.2),
    press: random.between(200, 900) * soft,
    dive: random.between(250, 650) * soft,
  };
  let coilHold = has('winding-slip') ? even(3, 90) : Infinity;
  const coilGives = even(5, 60);
  let pegHold = has('peg-slip') ? even(3, 150) : Infinity;
  const pegDrops = random.uniform() < 0.6 ? even(5, 80) : 0;
  const pegTurns = has('peg-slip') && pegDrops === 0 ? even(0.1, 14) : 0;
  if (pegTurns > 0) pegHold = Infinity;
  const lash = has('gear-backlash') ? even(3, 26) : random.between(0, 0.8);
  const jolts = random.uniform() < 0.5 ? 1 : 2;
  let loose = has('gear-backlash') ? jolts : 0;
  let bedding = has('fresh-string') ? even(steel ? 8 : 20, steel ? 90 : 220) : even(0.3, 3);
  const delayed = steel ? random.between(0.001, 0.02) : random.between(0.01, 0.09);
  const pivot = has('pivot-friction') ? even(2, 16) : random.between(0, 0.8);
  let lean = random.between(-1, 1);
  const springs = has('springs-moved') ? even(4, 40) : 0;
  const how = pick(random, ['once', 'jumps', 'one way'] as const);
  const room = has('room') ? even(2.5, 28) * sign() : random.normal();
  const worn = has('worn-string');
  const octave = worn ? even(2.5, 16) * sign() : 1.2 * random.normal();
  const reference = has('wrong-reference') ? even(2.5, 28) * sign() : 0.4 * random.normal();
  const posture = has('neck-flex') ? even(2, 16) * sign() : 0.6 * random.normal();
  const firm = has('pressing') ? random.between(4, 26) : random.between(0, 4);
  const sigmaCents = random.between(0.25, 0.6);
  const said = sigmaCents * random.between(0.7, 1.4);
  const scatter = sigmaCents * (worn ? random.between(1.3, 4) : random.between(0.8, 1.25));

  let own = 0;
  let others = 0;
  const speak = () => tension[speaking]!;
  const drag = (segment: number, cents: number) => {
    const rise = cents * (1 + 0.12 * random.normal());
    const before = speak();
    const atTuner = tension[0]!;
    tension[segment]! += rise;
    settle();
    const felt = tension[0]! - atTuner;
    tension[segment]! -= rise;
    settle();
    own += speak() - before;
    return { rise, felt };
  };
  /** Coil and peg feel what comes to them over the contacts. */
  const gives = ({ rise, felt }: { rise: number; felt: number }, share: number) => {
    if (felt > coilHold) {
      const by = coilGives * random.between(0.4, 1);
      own -= by;
      coilHold = Math.max(coilHold + by * random.between(0.3, 1), felt * random.between(0.5, 1.2));
    }
    if (felt > pegHold) {
      own -= pegDrops * random.between(0.6, 1.1);
      pegHold *= random.between(0.9, 1.3);
    }
    if (loose > 0) {
      own -= (lash / jolts) * random.between(0.8, 1.1);
      loose--;
    }
    const bed = bedding * share * random.between(0.15, 0.5);
    bedding -= bed;
    own -= bed + delayed * rise * random.uniform() * 0.1;
  };
  const move = (to: number, least: number) => {
    if (build.bridge !== 'floating') return;
    const way = (to - lean) * random.between(least, 1);
    lean += way;
    const stray =
      springs > 0 && how !== 'once' && least > 0.5 ? springs * (how === 'jumps' ? random.normal() * 0.6 : 0.4 * to) : 0;
    own += 0.5 * pivot * way + stray;
    others += 0.5 * pivot * way + stray;
  };
  const tune = (from: -1 | 1) => {
    const first = contacts.length - 1;
    for (let i = 0; i < contacts.length; i++) {
      const toward = i < first ? from : -from;
      const side = i < speaking ? i : i + 1;
      tension[side] = speak() + toward * contacts[i]!.limit * random.between(0.4, 1);
    }
    if (locked) tension[0] = speak();
    settle();
    if (from === -1) loose = has('gear-backlash') ? jolts : 0;
  };
  const act = (test: CauseTest, again: boolean) => {
    pluck();
    switch (test) {
      case 'from-below-above': {
        const level = speak();
        tune(again ? -1 : 1);
        tension.forEach((_, i) => (tension[i]! += level - speak()));
        gives(drag(speaking, 0.5 * pulls.bend), 0.3);
        move(-1, 0.2);
        break;
      }
      case 'big-bend':
        gives(drag(speaking, pulls.big), 0.8);
        move(-1, 0.4);
        break;
      case 'side-stretch':
        gives(drag(speaking, pulls.side), 1);
        move(-1, 0.3);
        break;
      case 'press-behind-nut':
        gives(drag(speaking - 1, pulls.press), 0.3);
        break;
      case 'pluck-behind-nut': {
        const apart = () => tension[speaking - 1]! - speak();
        const before = apart();
        if (again) drag(speaking - 1, pulls.press);
        else drag(speaking, pulls.big);
        own = apart() - before;
        return;
      }
      case 'press-behind-tree':
        gives(drag(0, pulls.press), 0.3);
        break;
      case 'press-behind-saddle':
        gives(drag(speaking + 1, pulls.press), 0.2);
        break;
      case 'dive':
        drag(speaking, -pulls.dive);
        move(-1, 0.7);
        break;
      case 'pull-up':
        gives(drag(speaking, 0.6 * pulls.bend), 0.4);
        move(1, 0.7);
        break;
      case 'wait': {
        const creep = 0.1 * bedding * random.uniform();
        bedding -= creep;
        const drift = 0.25 * room * random.uniform();
        own += drift - creep - pegTurns * random.uniform();
        others += drift;
        break;
      }
      default:
        break;
    }
    const wander = (0.25 + 0.04 * Math.abs(room)) * random.normal();
    own += wander;
    others += wander;
  };

  tune(random.uniform() < 0.8 ? 1 : -1);
  own = others = 0;
  const acts = testsPlayed(build);
  const hours = even(0.25, 55);
  const many = Math.floor(random.between(0, 14));
  for (let k = 0; k < many; k++) act(pick(random, acts), false);
  const crept = bedding * Math.min(0.8, 0.15 * Math.log1p(hours));
  bedding -= crept;
  const apart = random.between(0.6, 1.4);
  const allRoom =
    room * random.between(0.4, 1.2) -
    (has('wrong-reference') ? reference : 0) +
    (springs > 0 && how === 'once' ? springs * sign() : 0) +
    posture * random.between(0, 0.6);
  own += allRoom * apart - crept - pegTurns * Math.min(6, hours);
  const alike = has('fresh-string') && random.uniform() < 0.5 ? crept * random.between(0.4, 1.2) : 0;
  others += allRoom - alike;
  const noise = () => sigmaCents * random.normal();
  const gross = () => (random.uniform() < GROSS ? 25 * random.normal() : 0);
  const since: SinceLast = {
    test: 'since-last',
    own: own + noise() + gross(),
    others: others + 0.4 * noise(),
    othersSd: Math.abs(0.6 + 0.25 * Math.abs(others) * random.uniform() + 0.3 * random.normal()),
  };
  tune(random.uniform() < 0.8 ? 1 : -1);
  // What slips still slips after it was tuned.
  coilHold = has('winding-slip') ? even(3, 90) : Infinity;
  if (Number.isFinite(pegHold)) pegHold = even(3, 150);

  return {
    build,
    string: {
      material,
      lengthMm: 650,
      headMm: Math.round(650 * head * random.between(0.9, 1.1)),
      targetHz: random.between(80, 440),
      ageDays: has('fresh-string') ? random.between(0.05, 4) : even(0.5, 120),
    },
    cause,
    sigmaCents: said,
    since,
    test(test) {
      const once = (again: boolean) => {
        own = others = 0;
        act(test, again);
        const felt: Partial<Record<CauseTest, number>> = {
          octave,
          posture,
          reference,
          'firm-fret': firm * random.between(0.8, 1.2),
        };
        if (test === 'warm') own = others = (steel ? -3.5 : -6) * random.between(0.5, 1.6);
        if (felt[test] !== undefined) {
          own = felt[test]!;
          others = test === 'octave' || test === 'firm-fret' ? 0 : own;
        }
        return { own, others };
      };
      const first = once(false);
      const next = once(true);
      const result: TestResult = {
        test,
        first: first.own + Math.SQRT2 * noise() + gross(),
        scatter: scatter * Math.exp(0.35 * random.normal()),
      };
      if (random.uniform() > MISSING) result.second = next.own + Math.SQRT2 * noise() + gross();
      if (random.uniform() > MISSING) result.others = first.others + 0.5 * noise();
      if (random.uniform() < MISSING) delete result.scatter;
      return result;
    },
  };
}

/** What playing does. */
const testsPlayed = ({ bridge }: Case['build']): CauseTest[] => [
  'big-bend',
  'side-stretch',
  'press-behind-nut',
  ...(bridge === 'floating' ? (['dive', 'pull-up'] as const) : []),
];
