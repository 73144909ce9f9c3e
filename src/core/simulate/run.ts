/** A string in segments, from the tuner to its anchor, over contacts that hold it back. Tensions in cents of pitch, 865.6 ln T. */
export interface Run {
  /** Length of each segment over the speaking length; the speaking one is `speaking`. */
  lengths: readonly number[];
  speaking: number;
  /** What each contact between two segments can hold before the string slides, and while it slides, cents. */
  holds: readonly { still: number; sliding: number }[];
  /** Tension of each segment, cents from where all would be alike. */
  tensions: number[];
}

const SWEEPS = 8;

/**
 * Lets the string slide over its contacts until none holds more than it can: Coulomb friction round a contact holds tensions
 * apart by CPT mu theta (Euler and Eytelwein's capstan law in logarithms); what slides goes from the slack side to the taut.
 */
export function slide(run: Run): void {
  const { lengths, holds, tensions } = run;
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    let moved = false;
    for (let i = 0; i < holds.length; i++) {
      const apart = tensions[i]! - tensions[i + 1]!;
      const { still, sliding } = holds[i]!;
      if (Math.abs(apart) <= still) continue;
      const excess = apart - Math.sign(apart) * Math.min(still, sliding);
      // Length that goes over: it slackens the taut segment and tightens the other, each by its share.
      const length = excess / (1 / lengths[i]! + 1 / lengths[i + 1]!);
      tensions[i]! -= length / lengths[i]!;
      tensions[i + 1]! += length / lengths[i + 1]!;
      moved = true;
    }
    if (!moved) return;
  }
}

/** One segment is pulled (or slackened) by so many cents and let go: what has slid meanwhile stays. */
export function pull(run: Run, segment: number, cents: number): void {
  run.tensions[segment]! += cents;
  slide(run);
  run.tensions[segment]! -= cents;
  slide(run);
}
