/** A sentence that asks for a note, not for a hand's work. */
export const SOUNDED =
  /^(Pluck|At fret|Its harmonic|Sound|Once more, another|Hold its|Strike|Ask for|Play its)|: pluck /;
/** A message that asks whether a string far from where it was is that string. */
export const ASKS_WHETHER = / gone (slack|sharp) \(Enter\)/;
