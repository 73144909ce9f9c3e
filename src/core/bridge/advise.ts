import { MOST_CLAW_TURNS } from '../limits';
import { createBridgeFilter, type BridgeBelief, type BridgeEvent, type BridgeFilter } from './filter';
import type { BridgeMemory, BridgeTask, BridgeOrder } from '../codes';
import { clamp } from '../base';
import { yOf, type BridgeLaw } from './coupling';

export interface BridgeJob {
  law: BridgeLaw;
  task: BridgeTask;
  toleranceCents: number;
  /** Or the player's own: strings from 0. */
  order: BridgeOrder | readonly number[];
  memory: BridgeMemory | null;
  events: readonly BridgeEvent[];
  /** Just released: where its strings stood before they were tuned blocked, cents from their targets. */
  blockedFromCents?: readonly number[] | undefined;
}

/** What to do next, and what is believed. Strings count from 1. */
export interface BridgeAdvice extends BridgeBelief {
  do: 'read' | 'set' | 'claw' | 'done';
  string?: number;
  /** The reading to stop at, and how near to it is near enough. */
  stopAtCents?: number;
  withinCents?: number;
  turns?: number;
  /** What the law gives for this change, where the turns are more than that: they are asked about first. */
  lawTurns?: number;
  /** Which pass this is, from 1. */
  pass: number;
}

/** The middle outward, 3 4 2 5 1 6, or the outside in, 6 1 2 5 3 4; strings from 0. */
export function orderOf(order: Exclude<BridgeOrder, 'least-tilt'>, n: number): number[] {
  const pairs = Array.from({ length: Math.ceil(n / 2) }, (_, k) => (n - 1 - k === k ? [k] : [k, n - 1 - k]));
  if (order === 'centre-out') return pairs.reverse().flat();
  return [...[...pairs[0]!].reverse(), ...pairs.slice(1).flat()];
}

/** How far the bridge goes forward by each string until all are right, rad. */
function tiltsToCome(filter: BridgeFilter, belief: BridgeBelief): number[] {
  const goal = wanted(
    filter,
    belief,
    belief.b.map((_, i) => i),
  );
  return goal.map((b, i) => belief.coupling.w[i]! * (b - belief.b[i]!));
}

/** The order of a pass that begins now; the least tilt on the way: always the string that keeps the bridge nearest to where it is. */
function orderNow(job: BridgeJob, filter: BridgeFilter): number[] {
  if (typeof job.order !== 'string') return [...job.order];
  if (job.order !== 'least-tilt') return orderOf(job.order, job.law.tensionN.length);
  const tilts = tiltsToCome(filter, filter.belief());
  const left = tilts.map((_, i) => i);
  const order: number[] = [];
  let angle = 0;
  while (left.length > 0) {
    const next = left.reduce((m, i) => (Math.abs(angle + tilts[i]!) < Math.abs(angle + tilts[m]!) ? i : m));
    angle += tilts[next]!;
    order.push(next);
    left.splice(left.indexOf(next), 1);
  }
  return order;
}

/** Windings at which the rest of the strings read their targets, the others left as they are (Newton on the angle). */
function wanted(filter: BridgeFilter, belief: BridgeBelief, rest: readonly number[]): number[] {
  const b = [...belief.b];
  const { g, w } = belief.coupling;
  const lambda = rest.reduce((s, i) => s + g[i]! * w[i]!, 0);
  for (let round = 0; round < 12; round++) {
    const y = filter.readingsAt(b).map(yOf);
    const off = rest.map((i) => 1 - y[i]!);
    // b = (I + g w' / (1 - lambda)) dy, on the strings that are still to be wound.
    const along = rest.reduce((s, i, k) => s + w[i]! * off[k]!, 0) / (1 - lambda);
    rest.forEach((i, k) => (b[i]! += off[k]! + g[i]! * along));
  }
  return b;
}

/** Less than this is not worth a turn, cents: the string is near enough as it stands, beside a reading's doubt. */
const SMALL_CENTS = 1.4;
/** A string read surer than this need not be read again; a stop is worth a reading from here on, cents. */
const SURE_CENTS = 0.75;
const UNSURE_CENTS = 1.2;
/**
 * A stop is made when the string stands this near to it, cents: a share of the way there, since a wider one takes a small stop as made
 * before anything is turned; nearer where no string moves another, so that no later stop makes up for it (house, by simulated hands).
 */
const WITHIN = { share: 0.25, least: 2, most: 3, held: 1.5 };
const HELD_LAMBDA = 0.01;
/** Readings between two stops at most. */
const MOST_BETWEEN = 2;
/** Turns of the claw that are worth making, and that are made at once. */
const LEAST_TURNS = 0.06;
/** And the lean that nobody sees, rad. */
const LEAST_LEAN = (0.1 * Math.PI) / 180;
const MOST_TURNS = 4;
/** After these stops of a pass, from 0, it is looked at again, and after the last. */
const CLAW_AFTER = [0, 1, 3];

/** What to do next on a bridge. Where lambda is one or more it never settles: who asks refuses it. */
export function adviseBridge(job: BridgeJob): BridgeAdvice {
  const n = job.law.tensionN.length;
  // How it stood is taken for level only where nobody has looked.
  const levelKnown = job.task === 'new-tuning' && !job.events.some((e) => e.kind === 'tilt');
  const filter = createBridgeFilter(job.law, job.memory, levelKnown);
  let pass = 1;
  let order: number[] | undefined;
  let place = -1;
  for (const e of job.events) {
    if (e.kind === 'set') {
      // A string that does not come after the last one begins another pass.
      if (!order || order.indexOf(e.string - 1) <= place) {
        if (order) pass++;
        order = orderNow(job, filter);
      }
      place = order.indexOf(e.string - 1);
    }
    filter.apply(e);
  }
  const belief = filter.belief();
  const sets = job.events.filter((e) => e.kind === 'set');
  const answer = (rest: Partial<BridgeAdvice> & Pick<BridgeAdvice, 'do'>): BridgeAdvice => ({
    ...belief,
    pass,
    ...rest,
  });
  const expected = belief.expected;
  const unread = expected.findIndex((e) => e === null);
  if (unread >= 0) return answer({ do: 'read', string: unread + 1 });
  const sd = belief.expectedSd as number[];
  const cents = expected as number[];
  const tolerance = job.toleranceCents;

  const lastAct = job.events.findLastIndex((e) => e.kind === 'set' || e.kind === 'claw');
  const since = job.events.slice(lastAct + 1).filter((e) => e.kind === 'read');
  const readSince = (i: number) => since.some((e) => e.string === i + 1);

  // The claw: where level is known, before the stops, and once more when a turn is better known.
  const claws = job.events.filter((e) => e.kind === 'claw');
  const turns = clawTurns(job, belief, filter);
  const between = claws.length === 0 || CLAW_AFTER.includes(place) || place === n - 1;
  if (turns !== undefined && (sets.length === 0 ? claws.length === 0 : between && Math.abs(turns) > LEAST_TURNS)) {
    const made = claws.reduce((s, e) => s + Math.abs(e.turns), 0);
    const at = clamp(turns, -MOST_TURNS, MOST_TURNS);
    const rounded = Math.round(at * 16) / 16;
    // What of it is left when the strings are back.
    const { claw, lambda } = belief.coupling;
    const leans = Math.abs((rounded * claw) / (1 - lambda));
    if (Math.abs(rounded) > LEAST_TURNS && leans >= LEAST_LEAN && made + Math.abs(rounded) <= MOST_CLAW_TURNS) {
      const lawTurns = job.blockedFromCents && turnsForChange(job.law, job.blockedFromCents);
      const asks = lawTurns !== undefined && isBeyond(rounded, lawTurns);
      return answer({ do: 'claw', turns: rounded, ...(asks ? { lawTurns } : {}) });
    }
  }

  // One more reading where it tells most.
  const unsure = belief.b
    .map((_, i) => i)
    .filter((i) => !readSince(i))
    .sort((i, j) => sd[j]! - sd[i]!)[0];
  const midway = sets.length > 0 && place < n - 1;
  if (midway && since.length < MOST_BETWEEN && unsure !== undefined && sd[unsure]! > UNSURE_CENTS)
    return answer({ do: 'read', string: unsure + 1 });

  // The rest of the pass.
  const rest = midway ? order!.slice(place + 1) : [];
  const stop = nextStop(filter, belief, rest);
  if (stop) return answer(toStop(belief, stop, readSince(stop.string - 1)));

  // The pass is over: who is not known well enough is read.
  if (lastAct >= 0 && unsure !== undefined && sd[unsure]! > SURE_CENTS)
    return answer({ do: 'read', string: unsure + 1 });
  const fine = cents.every(
    (c, i) => Math.abs(c) + 0.9 * sd[i]! < tolerance && Math.abs(c) + 2.6 * sd[i]! < 1.5 * tolerance,
  );
  if (fine) return answer({ do: 'done' });
  // A string that is only not sure enough is read once more.
  const doubtful = cents
    .map((c, i) => ({ i, c }))
    .filter(({ i, c }) => Math.abs(c) < tolerance - 0.3 && !(Math.abs(c) + 0.9 * sd[i]! < tolerance));
  const badly = cents.some((c) => Math.abs(c) >= tolerance - 0.3);
  if (!badly && doubtful.length > 0 && since.filter((e) => e.string === doubtful[0]!.i + 1).length < 2)
    return answer({ do: 'read', string: doubtful[0]!.i + 1 });
  if (sets.length > 0) pass++;
  const again = nextStop(filter, belief, orderNow(job, filter)) ?? worstOf(cents);
  return answer(toStop(belief, again, readSince(again.string - 1)));
}

/** A stop further from the target than this is none: what is believed is wrong, cents. */
const MOST_STOP_CENTS = 400;
/** The stop, or where it would be no stop a reading; where that has just been read, its target. */
const toStop = (belief: BridgeBelief, stop: { string: number; stopAtCents: number }, isRead: boolean) => {
  if (Math.abs(stop.stopAtCents) <= MOST_STOP_CENTS) return setTo(belief, stop);
  return isRead ? setTo(belief, { ...stop, stopAtCents: 0 }) : { do: 'read' as const, string: stop.string };
};

/** What is said of a stop. */
function setTo({ expected, coupling }: BridgeBelief, stop: { string: number; stopAtCents: number }) {
  const way = Math.abs(stop.stopAtCents - expected[stop.string - 1]!);
  const withinCents =
    coupling.lambda < HELD_LAMBDA ? WITHIN.held : clamp(WITHIN.share * way, WITHIN.least, WITHIN.most);
  return { do: 'set' as const, ...stop, withinCents };
}

const worstOf = (cents: readonly number[]) => {
  const i = cents.reduce((w, c, k) => (Math.abs(c) > Math.abs(cents[w]!) ? k : w), 0);
  return { string: i + 1, stopAtCents: 0 };
};

/** The next string of the rest that is worth a turn, and where to stop. */
function nextStop(
  filter: BridgeFilter,
  belief: BridgeBelief,
  rest: readonly number[],
): { string: number; stopAtCents: number } | undefined {
  if (rest.length === 0) return undefined;
  // Lost: every string to its target, as one does without knowing.
  if (belief.lost) {
    const i = rest.find((k) => Math.abs(belief.expected[k]!) > SMALL_CENTS);
    return i === undefined ? undefined : { string: i + 1, stopAtCents: 0 };
  }
  const goal = wanted(filter, belief, rest);
  for (const i of rest) {
    const b = [...belief.b];
    b[i] = goal[i]!;
    const stopAtCents = filter.readingsAt(b)[i]!;
    if (Math.abs(stopAtCents - belief.expected[i]!) > SMALL_CENTS) return { string: i + 1, stopAtCents };
  }
  return undefined;
}

/**
 * Turns of the claw by which the springs answer another pull of the strings: the moments balance, by the linear law.
 * @param fromCents where the strings stood before, cents from their targets
 */
export const turnsForChange = ({ tensionN, leverMm, clawNmm }: BridgeLaw, fromCents: readonly number[]): number =>
  fromCents.reduce((sum, c, i) => sum + tensionN[i]! * leverMm[i]! * (1 - yOf(c)), 0) / clawNmm;

/** More than the law gives by this, turns, and this share of it (house estimates of what it does not know of springs and screws). */
const BEYOND_TURNS = 0.5;
const BEYOND_SHARE = 0.5;
const isBeyond = (turns: number, law: number): boolean =>
  Math.abs(turns - law) > BEYOND_TURNS + BEYOND_SHARE * Math.abs(law);

/** Turns of the claw that leave the bridge level when all strings are right; undefined where nobody said how it stands. */
function clawTurns(job: BridgeJob, belief: BridgeBelief, filter: BridgeFilter): number | undefined {
  // Blocked, or against its stop, it does not move: turned now, the claw would throw the strings off when it is let go.
  if (belief.coupling.lambda < HELD_LAMBDA) return undefined;
  const letDown = job.events.findLastIndex((e) => e.kind === 'slackened');
  // Since its strings were let down nobody knows how it stands, until somebody looks.
  const told = job.events.slice(letDown + 1).some((e) => e.kind === 'tilt');
  if (!told && (job.task !== 'new-tuning' || letDown >= 0)) return undefined;
  const { claw, lambda } = belief.coupling;
  const there = belief.angle + tiltsToCome(filter, belief).reduce((s, t) => s + t, 0);
  // Turning it moves the strings, which are brought back: (1 - lambda) of it is left.
  return ((there - belief.level) * (1 - lambda)) / claw;
}
