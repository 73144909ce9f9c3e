import { mean } from 'simple-statistics';
import { stringLoad, type StringLoad, type StringSpec } from './load';
import { breakingWarning, type BreakingWarning } from './breaking';

export interface NamedSpec extends StringSpec {
  note: string;
}

export interface SetWarning {
  code: BreakingWarning['code'] | 'floppy' | 'set-pulls-more';
  /** Index of the string; null for the whole set. */
  string: number | null;
  message: string;
}

/** A set of strings reckoned together. */
export interface SetLoad {
  /** One a string; undefined where its mass is unknown. */
  loads: (StringLoad | undefined)[];
  /** Tension against the mean of the strings that are known, 1 is even; null where unknown. */
  balance: (number | null)[];
  /** Pull of all strings whose tension is known, N, and how many those are. */
  sumN: number;
  known: number;
  warnings: SetWarning[];
}

/** House rules of the product: floppy under 40 % of the neighbours, a set that pulls 10 % beyond the one before it. */
const FLOPPY_SHARE = 0.4;
const MORE_PULL = 1.1;

/**
 * Reckons a whole set: loads, balance, and what to be warned of.
 * @param before the set that it replaces, for the sum's warning; compared only when every string of both is known
 */
export function setLoad(strings: readonly NamedSpec[], before?: readonly StringSpec[]): SetLoad {
  const loads = strings.map((s) => stringLoad(s));
  const tensions = loads.flatMap((l) => (l ? [l.tensionN] : []));
  const sumN = tensions.reduce((s, t) => s + t, 0);
  const warnings: SetWarning[] = [];
  loads.forEach((load, i) => {
    if (!load) return;
    const { note } = strings[i]!;
    const breaking = breakingWarning(note, load.shareOfBreaking);
    if (breaking) warnings.push({ ...breaking, string: i });
    const beside = [loads[i - 1], loads[i + 1]].flatMap((l) => (l ? [l.tensionN] : []));
    if (beside.length > 0 && load.tensionN < FLOPPY_SHARE * mean(beside))
      warnings.push({
        code: 'floppy',
        string: i,
        message: `${note} pulls less than ${100 * FLOPPY_SHARE} % of its neighbours: it will be slack and sound sharp when plucked.`,
      });
  });
  const old = before?.map((s) => stringLoad(s)?.tensionN);
  const oldSum = old?.reduce<number>((s, t) => s + (t ?? NaN), 0) ?? NaN;
  if (loads.every((l) => l) && sumN > MORE_PULL * oldSum)
    warnings.push({
      code: 'set-pulls-more',
      string: null,
      message: `The set pulls ${(100 * (sumN / oldSum - 1)).toFixed(0)} % more than the one it replaces. On a lightly built or old instrument ask its maker or a repairer first.`,
    });
  const even = tensions.length > 0 ? sumN / tensions.length : 0;
  return {
    loads,
    balance: loads.map((l) => (l ? l.tensionN / even : null)),
    sumN,
    known: tensions.length,
    warnings,
  };
}
