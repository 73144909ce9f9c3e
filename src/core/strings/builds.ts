export const TUNERS = ['geared', 'friction-peg', 'pin'] as const;
export type TunerKind = (typeof TUNERS)[number];
/** What the strings' pull holds in place. */
export const BRIDGES = ['nothing', 'bridge-and-soundpost', 'springs', 'loose-bridge'] as const;
export type BridgeKind = (typeof BRIDGES)[number];

/** How an instrument is built, as its owner says; what is not said follows from its family. */
export interface Build {
  tuner: TunerKind;
  /** Fine tuners at the tailpiece, beside the pegs. */
  fineTuners: boolean;
  frets: boolean;
  bowed: boolean;
  holds: BridgeKind;
  /** A guide on the head that presses strings down behind the nut. */
  tree?: boolean;
  /** Clamps at the nut that hold the strings. */
  locking?: boolean;
}

/** How an instrument is built, as far as strings go. */
export interface FamilyTraits extends Build {
  /** Diameter of the post, peg or pin where the string winds, mm. */
  postMm: number;
  /** Turns of the button for one of the post; 1 on pegs and pins. */
  ratio: number;
  tree: boolean;
  locking: boolean;
  /** A slotted head with posts across it, and strings tied at the bridge. */
  tied: boolean;
  /** Pins at the bridge hold the balls of the strings. */
  bridgePins: boolean;
  /** Where the tuners stand: on both sides of the head, in one line, in a peg box, in a row along the body. */
  layout: 'sides' | 'line' | 'box' | 'row';
}

/** Usual posts, ratios and builds (house estimates: measure yours where it matters). @param postMm diameter of the post, mm */
export const geared = (postMm: number, ratio: number, more: Partial<FamilyTraits> = {}): FamilyTraits => ({
  tuner: 'geared',
  postMm,
  ratio,
  holds: 'nothing',
  bowed: false,
  frets: true,
  fineTuners: false,
  tree: false,
  locking: false,
  tied: false,
  bridgePins: false,
  layout: 'sides',
  ...more,
});
export const electric: Partial<FamilyTraits> = { holds: 'springs', tree: true, layout: 'line' };
export const loose: Partial<FamilyTraits> = { holds: 'loose-bridge' };
export const bowed: Partial<FamilyTraits> = { holds: 'bridge-and-soundpost', bowed: true, frets: false, layout: 'box' };
/** @param postMm diameter of the peg where the string winds, mm */
export const peg = (postMm: number): FamilyTraits =>
  geared(postMm, 1, { tuner: 'friction-peg', ...bowed, fineTuners: true });
/** @param postMm diameter of the pin, mm */
export const pin = (postMm: number): FamilyTraits => geared(postMm, 1, { tuner: 'pin', frets: false, layout: 'row' });
