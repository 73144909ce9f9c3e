import type { LeadRow } from './lead';

/** A string in the show: as it stands when it begins, and as brought up at each of the times that can be chosen. */
export interface InShow<S> {
  string: S;
  start: LeadRow;
  at: (LeadRow | undefined)[];
}

export interface Prices {
  /** Of going to the instruments, of one string retuned there: minutes out that it must save. */
  visit: number;
  string: number;
}

export interface Retunings<S> {
  /** Which of the times are used, in order, with the strings retuned there, what each saves until it is touched again, and in each stretch: the most in need first. */
  visits: { time: number; strings: { string: S; leadCents: number; saves: number; rate: number }[] }[];
  /** Lead of each string at its start. */
  startLead: number[];
  /** Expected minutes out, and with all prices. */
  out: number;
  cost: number;
}

interface Way {
  cost: number;
  out: number;
  /** Positions in the list of visits at which it is retuned. */
  taken: number[];
}

const NEVER: Way = { cost: Infinity, out: Infinity, taken: [] };

/** The cheapest way of one string through given visits: at which of them it is retuned (dynamic programming backwards). */
function wayThrough({ start, at }: InShow<unknown>, visits: readonly number[], price: number): Way {
  const end = start.until.length - 1;
  const from = (row: LeadRow, later: number, ways: readonly Way[]): Way => {
    let best: Way = { cost: row.until[end]!.out, out: row.until[end]!.out, taken: [] };
    for (let k = later; k < visits.length; k++) {
      const next = at[visits[k]!];
      if (!next || next.fromMs < row.fromMs) continue;
      const { out } = row.until[next.first]!;
      const way = ways[k]!;
      if (out + price + way.cost < best.cost)
        best = { cost: out + price + way.cost, out: out + way.out, taken: [k, ...way.taken] };
    }
    return best;
  };
  const ways: Way[] = [];
  for (let k = visits.length - 1; k >= 0; k--) {
    const row = at[visits[k]!];
    ways[k] = row ? from(row, k + 1, ways) : NEVER;
  }
  return from(start, 0, ways);
}

/**
 * Retunings between pieces: at which of the given times, which strings, left at what. Times are added while one saves more
 * than it costs, moved and taken away again while that helps.
 * @param cheap the share of a walk's price that going there at a time costs
 */
export function chooseRetunings<S>(
  strings: readonly InShow<S>[],
  times: number,
  prices: Prices,
  cheap: (time: number) => number,
): Retunings<S> {
  const total = (visits: readonly number[]) =>
    visits.reduce((sum, t) => sum + prices.visit * cheap(t), 0) +
    strings.reduce((sum, s) => sum + wayThrough(s, visits, prices.string).cost, 0);
  const all = Array.from({ length: times }, (_, i) => i);
  const inOrder = (list: number[]) => [...list].sort((a, b) => a - b);
  let visits: number[] = [];
  let cost = total(visits);
  for (let round = 0; round < 24; round++) {
    const unused = all.filter((t) => !visits.includes(t));
    const tries = [
      ...unused.map((t) => inOrder([...visits, t])),
      ...visits.map((v) => visits.filter((w) => w !== v)),
      ...visits.flatMap((v) =>
        [v - 1, v + 1].filter((t) => unused.includes(t)).map((t) => inOrder([...visits.filter((w) => w !== v), t])),
      ),
    ];
    const costs = tries.map(total);
    const best = costs.reduce((b, c, i) => (c < costs[b]! ? i : b), 0);
    if (!(costs[best]! < cost - 1e-6)) break;
    visits = tries[best]!;
    cost = costs[best]!;
  }
  return { ...told(strings, visits, prices), cost };
}

function told<S>(strings: readonly InShow<S>[], visits: readonly number[], prices: Prices): Omit<Retunings<S>, 'cost'> {
  const done = visits.map((time) => ({ time, strings: [] as Retunings<S>['visits'][number]['strings'] }));
  const startLead: number[] = [];
  let out = 0;
  for (const s of strings) {
    const end = s.start.until.length - 1;
    const way = wayThrough(s, visits, prices.string);
    out += way.out;
    const rows = [s.start, ...way.taken.map((k) => s.at[visits[k]!]!)];
    const cellOf = (i: number) => rows[i]?.first ?? end;
    startLead.push(s.start.until[cellOf(1)]!.leadCents);
    way.taken.forEach((k, i) => {
      const row = rows[i + 1]!;
      const before = rows[i]!;
      const { out: with_, leadCents } = row.until[cellOf(i + 2)]!;
      const without = before.until[cellOf(i + 2)]!.out - before.until[row.first]!.out;
      const saves = without - with_;
      done[k]!.strings.push({
        string: s.string,
        leadCents,
        saves,
        rate: saves / Math.max(1, cellOf(i + 2) - row.first),
      });
    });
  }
  for (const v of done) v.strings.sort((a, b) => b.rate - a.rate);
  return { visits: done.filter((v) => v.strings.length > 0), startLead, out };
}
