import { mean, median } from 'simple-statistics';

/** What the bar leaves behind on one string, cents: the first time, the second, and what the others did at the first. */
export interface Return {
  first: number;
  second: number;
  others: number;
}

/** More than this is a string, or a bridge, that does not come back, cents (house estimate: twice what two plucks differ by). */
const STICKS_CENTS = 1.5;

/** @param rounds cents of every string: before, after the bar once, after it twice */
export function returnsOf([before, once, twice]: readonly [number[], number[], number[]]): Return[] {
  const firsts = once.map((c, i) => c - before[i]!);
  return firsts.map((first, i) => ({
    first,
    second: twice[i]! - once[i]!,
    others: mean(firsts.filter((_, j) => j !== i)),
  }));
}

/** What the bridge did to all: it moves every string, so where at least half of them came back it came back too, and the rest bind. */
function sharedCents(firsts: readonly number[]): number {
  const back = firsts.filter((c) => Math.abs(c) <= STICKS_CENTS);
  return median(2 * back.length >= firsts.length ? back : [...firsts]);
}

/** What moves all strings alike is the bridge; what one does beside the others is its own. Strings from 0, the worst last. */
export function returnVerdict(returns: readonly Return[]): { bridgeCents: number; bridge: boolean; strings: number[] } {
  const bridgeCents = sharedCents(returns.map((r) => r.first));
  // Those that are off alike stay in their order, whatever the arithmetic left behind.
  const own = returns.map((r) => Number(Math.abs(r.first - bridgeCents).toFixed(6)));
  const strings = own.flatMap((c, i) => (c > STICKS_CENTS ? i : [])).sort((i, j) => own[i]! - own[j]!);
  return { bridgeCents, bridge: Math.abs(bridgeCents) > STICKS_CENTS, strings };
}
