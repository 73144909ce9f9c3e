/** One look for each string, in the instrument's order, wherever strings are drawn together: a token and a dash. */
const TOKENS = ['deep', 'rust', 'sand', 'ink', 'ink2'] as const;
const DASHES = ['solid', 'dash', 'dot'] as const;

export function strokeOf(index: number): { token: (typeof TOKENS)[number]; dash: (typeof DASHES)[number] } {
  return { token: TOKENS[index % TOKENS.length]!, dash: DASHES[Math.floor(index / TOKENS.length) % DASHES.length]! };
}
export const dashArray = { solid: undefined, dash: '7 4', dot: '2 3' } as const;
