const rules = new Intl.PluralRules('en');

/**
 * A number of things: '1 entry', '2 entries'.
 * @param count what is written before the word: as it is written, so 1.0 days and 1 day
 */
export const counted = (count: number | string, one: string, many = `${one}s`): string =>
  `${count} ${rules.select(Number(count)) === 'one' && !String(count).includes('.') ? one : many}`;

/** How far something is. @param share 0 to 1 */
export const progressWords = (what: string, share: number): string => `${what}, ${Math.floor(100 * share)} %`;
