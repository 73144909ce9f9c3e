import { geared, peg, pin, type Build, type FamilyTraits, type TunerKind } from './builds';
import { FAMILIES } from './families';

const TRAITS: ReadonlyMap<string, FamilyTraits> = new Map(FAMILIES.map((f) => [f.code, f.traits]));
/** Of an instrument of no family. */
const USUAL: Record<TunerKind, FamilyTraits> = { geared: geared(6, 16), 'friction-peg': peg(8), pin: pin(5) };

/**
 * Traits of an instrument: its family's, with what its owner says of its build. One written by hand of which nothing is said
 * counts as geared and fretted, with nothing held by its strings.
 */
export function traitsOf({ family, build }: { family: string; build?: Build | undefined }): FamilyTraits {
  const usual = TRAITS.get(family) ?? USUAL[build?.tuner ?? 'geared'];
  if (!build) return usual;
  // Another kind of tuner has another post.
  const post = build.tuner === usual.tuner ? usual : USUAL[build.tuner];
  const { postMm, ratio } = post;
  const layout = build.tuner === usual.tuner ? usual.layout : build.bowed ? 'box' : post.layout;
  return { ...usual, ...build, postMm, ratio, layout };
}
