/** What follows from a list or an object that does not change, found out once and kept as long as that is. */
export function once<K extends object, V>(find: (of: K) => V): (of: K) => V {
  const known = new WeakMap<K, { value: V }>();
  return (of) => {
    const before = known.get(of);
    if (before) return before.value;
    const value = find(of);
    known.set(of, { value });
    return value;
  };
}
