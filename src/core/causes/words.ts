import type { CauseAnswer } from './finder';
import type { Cause, RemedyOutcome } from '../codes';
import { changeOf } from '../friction';
import { capital } from '../music';
import { TEST_GUIDES } from './guide';
import { REMEDIES } from './remedies';

/** Said with certainty, and as most likely, above these (the user's rule); below, no figure is given. */
const IT_IS = 0.95;
const MOST_LIKELY = 0.85;
/** What is named beside the first where nothing is sure. */
const NAMED = 0.2;
const THINGS = 3;

type Finding = Pick<CauseAnswer, 'causes' | 'next' | 'stop' | 'cannotTell' | 'wouldPart' | 'unfound' | 'misfit'>;

/** Causes below this are ruled out; so many are named. */
const RULED_OUT = 0.02;
/** What the tests have ruled out, as far as it is common enough to be asked about. */
function ruledOut(causes: CauseAnswer['causes']): string {
  const out = causes.filter((c) => c.probability < RULED_OUT).slice(0, THINGS);
  return out.length === 0 ? '' : `It is not this: ${out.map((c) => REMEDIES[c.cause].short).join(', ')}. `;
}

const names = (causes: readonly Cause[]): string => causes.map((c) => REMEDIES[c].name).join(', or ');

/** What the evidence says, in a sentence. */
export function findingWords({ causes, next, stop, cannotTell, wouldPart, unfound, misfit }: Finding): string {
  const [first] = causes;
  const { cause, probability } = first!;
  if (misfit)
    return `These readings do not fit together. Do this once more: ${TEST_GUIDES[misfit].title.toLowerCase()}.`;
  if (stop && unfound)
    return `Not found yet: it moved more than the others. ${ruledOut(causes)}Leave it as it is, and read all strings again tomorrow.`;
  if (probability > IT_IS) return `${capital(REMEDIES[cause].name)}.`;
  if (probability > MOST_LIKELY) return `Most likely ${REMEDIES[cause].name}.`;
  if (cannotTell.length > 1) {
    const parts = wouldPart
      ? [`What would part them is this test: ${TEST_GUIDES[wouldPart].title.toLowerCase()}.`]
      : partedLater(cannotTell);
    return [`${capital(names(cannotTell))}: no test left here tells them apart.`, ...parts].join(' ');
  }
  const open = causes
    .filter((c) => c.probability > NAMED)
    .slice(0, THINGS)
    .map((c) => c.cause);
  if (open.length === 0) return stop ? 'This cannot be told from here.' : 'Too little is known yet.';
  return next && !stop
    ? `Perhaps ${names(open)}. ${TEST_GUIDES[next].title} tells more.`
    : `Perhaps ${names(open)}: it cannot be told for sure.`;
}

/** What parts two causes that no test of now does. */
const LATER: [Cause, Cause, string][] = [
  [
    'nut-friction',
    'tree-friction',
    'Say how far it is from nut to tree: then the short length between them can be plucked.',
  ],
  [
    'room',
    'springs-moved',
    'Look whether claw and bridge stand as before, and read again when the room is as warm as it was.',
  ],
  ['saddle-friction', 'none', 'The length behind the saddle is short: what sticks there can hardly be felt.'],
  ['peg-slip', 'winding-slip', 'Draw a pencil line over peg and coils, and look tomorrow which has moved.'],
  ['peg-slip', 'fresh-string', 'Draw a pencil line on the peg, and look tomorrow whether it has turned.'],
  ['winding-slip', 'fresh-string', 'Draw a pencil line over the coils, and look tomorrow whether they have moved.'],
  ['room', 'fresh-string', 'Read all strings tomorrow in the same room: a new string falls on, a room comes back.'],
  ['room', 'wrong-reference', 'Sound a fork, or look at a second tuner.'],
  [
    'pivot-friction',
    'springs-moved',
    'Push the bar down and pull it up twice more: what binds stands at the same two places.',
  ],
];
/** What to do to tell them apart later, a sentence for each pair. */
const partedLater = (causes: readonly Cause[]): string[] =>
  LATER.filter(([a, b]) => causes.includes(a) && causes.includes(b)).map(([, , words]) => words);

/** What the next test is for, in a sentence; nothing where it parts no two. */
export const partsWords = ({ parts }: Pick<CauseAnswer, 'parts'>): string =>
  parts ? `It tells ${REMEDIES[parts[0]].short} from ${REMEDIES[parts[1]].short}.` : '';

/** Less than this share of what was to be expected untouched is a help; taking off less than the other is none. */
const HELPED_SHARE = 0.5;
const NO_HELP_SHARE = 0.2;

/**
 * Did a remedy help?
 * @param expectedCents what the same test would show untouched: what it showed last, in the same state
 * @param afterCents what it shows now
 * @param sigmaCents standard error of one reading
 */
export function outcomeOf(expectedCents: number, afterCents: number, sigmaCents: number): RemedyOutcome {
  const doubt = 2 * Math.SQRT2 * sigmaCents;
  if (Math.abs(expectedCents) < 2 * doubt) return 'cannot-tell';
  const went = Math.abs(expectedCents) - Math.abs(afterCents);
  if (Math.abs(afterCents) < HELPED_SHARE * Math.abs(expectedCents) && went > doubt) return 'helped';
  return went < Math.max(doubt, NO_HELP_SHARE * Math.abs(expectedCents)) ? 'did-not' : 'cannot-tell';
}

/** How much less, or more, a figure is than it would be untouched, with nine of ten: each is a difference of two readings. */
export const lessWords = (expectedCents: number, afterCents: number, sigmaCents: number): string =>
  `${changeOf(Math.abs(expectedCents) - Math.abs(afterCents), 2 * sigmaCents)} than it would be untouched`;

/** A test that would pull a string too near to breaking is not done. */
export const TOO_NEAR_BREAKING =
  'This string pulls too near its breaking load to be bent or pressed. Choose a test that does not, or a lighter string.';
