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

const geared = (postMm: number, ratio: number, more: Partial<FamilyTraits> = {}): FamilyTraits => ({
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
const electric: Partial<FamilyTraits> = { holds: 'springs', tree: true, layout: 'line' };
const loose: Partial<FamilyTraits> = { holds: 'loose-bridge' };
const bowed: Partial<FamilyTraits> = { holds: 'bridge-and-soundpost', bowed: true, frets: false, layout: 'box' };
const peg = (postMm: number): FamilyTraits => geared(postMm, 1, { tuner: 'friction-peg', ...bowed, fineTuners: true });
const pin = (postMm: number): FamilyTraits => geared(postMm, 1, { tuner: 'pin', frets: false, layout: 'row' });

/** Usual posts, ratios and builds (house estimates: measure yours where it matters). */
const TRAITS: Record<string, FamilyTraits> = {
  'guitar-steel': geared(6, 16, { bridgePins: true }),
  'guitar-nylon': geared(10, 15, { tied: true }),
  'requinto-nylon': geared(10, 15, { tied: true }),
  'electric-fixed': geared(6, 16, { tree: true, layout: 'line' }),
  'electric-floating': geared(6, 16, electric),
  'baritone-floating': geared(6, 16, electric),
  'bass-4': geared(12, 20, { tree: true, layout: 'line' }),
  'bass-5': geared(12, 20, { tree: true, layout: 'line' }),
  'bass-6': geared(12, 20, { tree: true, layout: 'line' }),
  'twelve-string': geared(6, 16, { bridgePins: true }),
  mandolin: geared(6, 16, loose),
  ukulele: geared(6, 14, { tied: true }),
  violin: peg(7.2),
  'violin-34': peg(6.8),
  'violin-12': peg(6.4),
  'violin-14': peg(6),
  viola: peg(8),
  cello: peg(12.5),
  'cello-34': peg(11.5),
  'cello-12': peg(10.5),
  'cello-14': peg(9.5),
  'double-bass': geared(16, 24, bowed),
  'lyre-7': pin(5),
  'kantele-11': pin(5),
  'harp-26': pin(6),
  'harp-34': pin(6),
  'zither-15': pin(5),
  'dulcimer-12': pin(5),
  'banjo-tenor': geared(6, 16, loose),
  'banjo-5': geared(6, 16, loose),
  bouzouki: geared(6, 16, loose),
};

const USUAL: Record<TunerKind, FamilyTraits> = { geared: geared(6, 16), 'friction-peg': peg(8), pin: pin(5) };

/**
 * Traits of an instrument: its family's, with what its owner says of its build. One written by hand of which nothing is said
 * counts as geared and fretted, with nothing held by its strings.
 */
export function traitsOf({ family, build }: { family: string; build?: Build | undefined }): FamilyTraits {
  const usual = TRAITS[family] ?? USUAL[build?.tuner ?? 'geared'];
  if (!build) return usual;
  // Another kind of tuner has another post.
  const post = build.tuner === usual.tuner ? usual : USUAL[build.tuner];
  const { postMm, ratio } = post;
  const layout = build.tuner === usual.tuner ? usual.layout : build.bowed ? 'box' : post.layout;
  return { ...usual, ...build, postMm, ratio, layout };
}
