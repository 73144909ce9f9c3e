/** So many answers of one thing are kept, the newest (house). */
const MOST = 48;

/**
 * What is worked out of a thing that does not change, a fit or a string's readings, is kept as long as that.
 * @param work of plain figures and codes
 * @param most answers of one thing
 */
export function keptOf<K extends object, A extends readonly unknown[], R>(
  work: (of: K, ...asked: A) => R,
  most = MOST,
): (of: K, ...asked: A) => R {
  const known = new WeakMap<K, Map<string, R>>();
  return (of, ...asked) => {
    const own = known.get(of) ?? new Map<string, R>();
    known.set(of, own);
    const key = JSON.stringify(asked);
    const answer = own.has(key) ? own.get(key)! : work(of, ...asked);
    own.delete(key);
    own.set(key, answer);
    if (own.size > most) own.delete(own.keys().next().value!);
    return answer;
  };
}
