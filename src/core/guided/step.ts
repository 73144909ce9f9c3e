/** The one thing to do next. */
export interface PassStep {
  stringId: string;
  purpose: 'found' | 'left';
  /** The second pluck that a surprising reading asks for: by how much the string moved at once, cents. */
  leapCents?: number;
  /** It was left from above and may fall: offered once more, to be finished from below. */
  again?: true;
}
