import type { SettlingFit } from './fit';

/** So many answers of a fit are kept, the newest (house). */
const MOST = 48;

/**
 * What is worked out of a fit is kept as long as the fit: it does not change.
 * @param work of plain figures and codes
 * @param most answers of one fit
 */
export function keptOf<A extends readonly unknown[], R>(
  work: (fit: SettlingFit, ...asked: A) => R,
  most = MOST,
): (fit: SettlingFit, ...asked: A) => R {
  const known = new WeakMap<SettlingFit, Map<string, R>>();
  return (fit, ...asked) => {
    const own = known.get(fit) ?? new Map<string, R>();
    known.set(fit, own);
    const key = JSON.stringify(asked);
    const answer = own.has(key) ? own.get(key)! : work(fit, ...asked);
    own.delete(key);
    own.set(key, answer);
    if (own.size > most) own.delete(own.keys().next().value!);
    return answer;
  };
}
