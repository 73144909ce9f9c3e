/** A string in segments, from the tuner to its anchor, over contacts that hold it back. Tensions in cents of pitch, 865.6 ln T. */
export interface StringRun {
  /** Length of each segment over the speaking length; the speaking one is `speaking`. */
  lengths: readonly number[];
  speaking: number;
  /** What each contact between two segments can hold before the string slides, and while it slides, cents. */
  holds: readonly { still: number; sliding: number }[];
  /** Tension of each segment, cents from where all would be alike. */
  tensions: number[];
}

/** Sweeps at most, and the change of tension at which no more are needed, cents. */
const SWEEPS = 200;
const AT_REST = 0.005;

/**
 * Lets the string slide over its contacts until none holds more than it can: Coulomb friction round a contact holds tensions
 * apart by CPT mu theta (Euler and Eytelwein's capstan law in logarithms); what slides goes from the slack side to the taut.
 * The contacts slide together, each no further than all others leave it to: what goes over at one is taken back where another
 * gives in (the incremental problem of quasi-static friction, Moreau 1974, by coordinate descent). One after the other to its
 * own end, a string that is let go would slide too far at its nut before its tail gives, and stand sharp.
 */
export function slide(run: StringRun): void {
  const { lengths, holds, tensions } = run;
  if (!holds.some(({ still }, i) => Math.abs(tensions[i]! - tensions[i + 1]!) > still)) return;
  const over = holds.map(() => 0);
  const slid = holds.map(() => false);
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    let most = 0;
    for (let i = 0; i < holds.length; i++) {
      const { still, sliding } = holds[i]!;
      const give = 1 / lengths[i]! + 1 / lengths[i + 1]!;
      /** Apart if nothing went over here. */
      const apart = tensions[i]! - tensions[i + 1]! + over[i]! * give;
      const holding = Math.min(still, sliding);
      const slides = Math.abs(apart) > (slid[i] ? holding : still);
      slid[i] ||= slides;
      // Length that goes over: it slackens the taut segment and tightens the other, each by its share.
      const length = (slides ? (apart - Math.sign(apart) * holding) / give : 0) - over[i]!;
      over[i]! += length;
      tensions[i]! -= length / lengths[i]!;
      tensions[i + 1]! += length / lengths[i + 1]!;
      most = Math.max(most, Math.abs(length) * give);
    }
    if (most < AT_REST) return;
  }
}

/** One segment is pulled (or slackened) by so many cents and let go: what has slid meanwhile stays. @returns the rise at the tuner while it was pulled, cents */
export function pull(run: StringRun, segment: number, cents: number): number {
  const atTuner = run.tensions[0]!;
  run.tensions[segment]! += cents;
  slide(run);
  const rise = run.tensions[0]! - atTuner;
  run.tensions[segment]! -= cents;
  slide(run);
  return rise;
}
