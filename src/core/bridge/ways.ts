import { adviseBridge, orderOf } from './advise';
import type { BridgeTask, BridgeMemory } from '../codes';
import type { BridgeEvent } from './filter';
import { centsOf, couplingOf, yOf, type BridgeLaw } from './coupling';

/** Ways to tune a floating bridge. */
export const WAYS = ['stops', 'zeroing', 'mirror', 'block'] as const;
export type Way = (typeof WAYS)[number];

/** Chance by normal numbers: handed in. */
export interface Chance {
  normal(): number;
}

const DRAWS = 8;
const MOST_PASSES = 15;
/** A hand stops within this, a figure is off by this, cents (house estimates). */
const HAND_CENTS = 0.5;
const READ_CENTS = 0.4;

/** Bridges as this one may be, and how many passes each way takes on them: the median, and the share that is right after one pass. */
export function compareWays(
  law: BridgeLaw,
  task: BridgeTask,
  offsetsCents: readonly number[],
  memory: BridgeMemory | null,
  toleranceCents: number,
  chance: Chance,
): { way: Way; passes: number; afterOne: number }[] {
  const n = law.tensionN.length;
  const counts = Object.fromEntries(WAYS.map((w) => [w, [] as number[]])) as Record<Way, number[]>;
  for (let draw = 0; draw < DRAWS; draw++) {
    const spread = memory ? 0.3 : 1;
    const like = (sd: number) => Math.exp(spread * sd * chance.normal());
    const known = (i: number) => memory?.mean[i] ?? 0;
    const { g, w } = couplingOf({
      ...law,
      turning: law.turning * like(0.3) * Math.exp(known(0)),
      leverMm: law.leverMm.map((h, i) => h * like(0.08) * Math.exp(known(2) + known(3 + i))),
      stiffNPerMm: law.stiffNPerMm.map((k, i) => k * like(0.08) * Math.exp(known(3 + n + i))),
    });
    for (const way of WAYS) {
      const y = offsetsCents.map(yOf);
      const cents = () => y.map((v) => centsOf(Math.max(0.2, v)));
      const right = () => cents().every((c) => Math.abs(c) <= toleranceCents);
      const set = (i: number, to: number, held = false) => {
        const goal = yOf(to + HAND_CENTS * chance.normal());
        const b = held ? goal - y[i]! : (goal - y[i]!) / (1 - g[i]! * w[i]!);
        y.forEach((_, j) => (y[j]! += (j === i ? b : 0) - (held ? 0 : g[j]! * w[i]! * b)));
      };
      counts[way].push(
        way === 'stops'
          ? byStops(law, task, memory, toleranceCents, cents, set, right, chance)
          : byRule(way, n, g, cents, set, right, chance),
      );
    }
  }
  return WAYS.map((way) => {
    const passes = [...counts[way]].sort((a, b) => a - b);
    return { way, passes: passes[passes.length >> 1]!, afterOne: passes.filter((p) => p <= 1).length / DRAWS };
  });
}

function byStops(
  law: BridgeLaw,
  task: BridgeTask,
  memory: BridgeMemory | null,
  toleranceCents: number,
  cents: () => number[],
  set: (i: number, to: number) => void,
  right: () => boolean,
  chance: Chance,
): number {
  const events: BridgeEvent[] = [];
  for (let k = 0; k < 70; k++) {
    const advice = adviseBridge({
      law,
      task: task === 'new-tuning' ? 'fresh' : task,
      toleranceCents,
      order: 'least-tilt',
      memory,
      events,
    });
    if (advice.do === 'done' || (right() && advice.pass > 1)) return advice.pass;
    const string = advice.string!;
    if (advice.do === 'set') {
      set(string - 1, advice.stopAtCents!);
      events.push({ kind: 'set', string, cents: advice.stopAtCents! });
    } else events.push({ kind: 'read', string, cents: cents()[string - 1]! + READ_CENTS * chance.normal() });
  }
  return MOST_PASSES;
}

function byRule(
  way: Exclude<Way, 'stops'>,
  n: number,
  g: readonly number[],
  cents: () => number[],
  set: (i: number, to: number, held?: boolean) => void,
  right: () => boolean,
  chance: Chance,
): number {
  for (let pass = 1; pass <= MOST_PASSES; pass++) {
    // Blocked, the strings are tuned as on a fast bridge; released, all are off by what the claw is not right by.
    const block = way === 'block' && pass === 1;
    for (const i of orderOf('centre-out', n)) set(i, way === 'mirror' && pass === 1 ? -0.7 * cents()[i]! : 0, block);
    if (block) {
      const off = (3 + 2 * Math.abs(chance.normal())) * Math.sign(chance.normal());
      const most = Math.max(...g.map(Math.abs));
      const now = cents();
      now.forEach((c, i) => set(i, c + (off * g[i]!) / most, true));
    }
    if (right()) return pass;
  }
  return MOST_PASSES;
}
