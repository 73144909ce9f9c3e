import type { CauseAnswer } from './finder';
import type { Cause, Outcome } from '../codes';
import { TEST_GUIDES } from './guide';
import { REMEDIES } from './remedies';

/** Said with certainty, and as most likely, above these (the user's rule); below, no figure is given. */
const IT_IS = 0.95;
const MOST_LIKELY = 0.85;
/** What is named beside the first where nothing is sure. */
const NAMED = 0.2;
const THINGS = 3;

const names = (causes: readonly Cause[]): string => causes.map((c) => REMEDIES[c].name).join(', or ');

/** What the evidence says, in a sentence. */
export function findingWords({ causes, next, stop, cannotTell }: CauseAnswer): string {
  const [first] = causes;
  const { cause, probability } = first!;
  const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);
  if (probability > IT_IS) return `${capital(REMEDIES[cause].name)}.`;
  if (probability > MOST_LIKELY) return `Most likely ${REMEDIES[cause].name}.`;
  if (cannotTell.length > 1) return `${capital(names(cannotTell))}: no test here tells them apart.`;
  const open = causes
    .filter((c) => c.probability > NAMED)
    .slice(0, THINGS)
    .map((c) => c.cause);
  if (open.length === 0) return stop ? 'This cannot be told from here.' : 'Too little is known yet.';
  return next && !stop
    ? `Perhaps ${names(open)}. ${TEST_GUIDES[next].title} tells more.`
    : `Perhaps ${names(open)}: it cannot be told for sure.`;
}

/** Less than this share of what it was before is a help; taking off less than the other is none. */
const HELPED_SHARE = 0.5;
const NO_HELP_SHARE = 0.2;

/** Did a remedy help, by the same test before and after? @param sigmaCents standard error of one reading */
export function outcomeOf(beforeCents: number, afterCents: number, sigmaCents: number): Outcome {
  const doubt = 2 * Math.SQRT2 * sigmaCents;
  if (Math.abs(beforeCents) < 2 * doubt) return 'cannot-tell';
  const went = Math.abs(beforeCents) - Math.abs(afterCents);
  if (Math.abs(afterCents) < HELPED_SHARE * Math.abs(beforeCents) && went > doubt) return 'helped';
  return went < Math.max(doubt, NO_HELP_SHARE * Math.abs(beforeCents)) ? 'did-not' : 'cannot-tell';
}
