import { SEARCH_HIGH_CENTS, SEARCH_LOW_CENTS } from '../pitch';
import type { GuidedStep } from './step';

/** A string that was just fitted, or whose tuner is in the hand, may hang an octave slack; a little sharp at most, cents. */
const SLACK = { lowCents: SEARCH_LOW_CENTS, highCents: SEARCH_HIGH_CENTS };
/** One that a hand pulls sharp: by two tones and a bit, cents. */
const WATCHED = { lowCents: -150, highCents: 700 };
/** Where a string is looked for that nobody has touched since its last reading, cents about that. */
const ABOUT_CENTS = 110;

/** Where the named string of a step may stand, cents about its target. */
export function reachOf(step: Pick<GuidedStep, 'step' | 'named' | 'insist' | 'watched'>): {
  lowCents: number;
  highCents: number;
} {
  const { named, step: asked, insist, watched } = step;
  if (watched) return WATCHED;
  if (named.fresh || asked.purpose === 'left' || insist) return SLACK;
  const home = named.lastHz === undefined ? 0 : 1200 * Math.log2(named.lastHz / named.targetHz);
  return { lowCents: home - ABOUT_CENTS, highCents: home + ABOUT_CENTS };
}
