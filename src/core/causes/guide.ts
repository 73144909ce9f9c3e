import { unevenCents } from '../octave';
import { cents } from '../music';
import type { Disturbance } from '../simulate';
import type { Bend } from '../strings';
import { hasFrets, type CauseBuild } from './kinds';
import type { CauseTest, Measure } from '../codes';

/** What is sounded, or done, in a test: the string itself, the one beside it, or a tone that the strings are tuned by. */
export type TestPart =
  | { kind: 'read'; touch: 'open' | 'fret' | 'harmonic' | 'neighbour' | 'tone' | 'behind'; words: string }
  /** `raises`: it pulls the string sharp, and its pitch is watched. */
  | { kind: 'do'; words: string; how?: Disturbance; waitS?: number; raises?: true };

/** Where the hand is: along the string, from its tuner to its anchor. */
export type TouchPlace = 'tuner' | 'behind-tree' | 'behind-nut' | 'middle' | 'behind-saddle' | 'bar' | 'none';

/** A test as it is done by hand. */
export interface TestGuide {
  title: string;
  place: TouchPlace;
  parts: TestPart[];
  caution?: string;
}

const open = (words: string): TestPart => ({ kind: 'read', touch: 'open', words });
const act = (words: string, how?: Disturbance, waitS?: number): TestPart => ({
  kind: 'do',
  words,
  ...(how ? { how } : {}),
  ...(waitS ? { waitS } : {}),
});
const beside: TestPart = { kind: 'read', touch: 'neighbour', words: 'Pluck the string beside it, open' };
const tone: TestPart = { kind: 'read', touch: 'tone', words: 'Sound an A4: a fork, a second tuner, a piano' };
const once = (words: string, how: Disturbance, waitS?: number): TestPart[] => [
  open('Pluck it open'),
  act(words, how, waitS),
  open('Pluck it open again'),
];
/** What moves all strings is told from what moves one by the string beside it. */
const withOthers = (parts: TestPart[]): TestPart[] => [beside, ...parts.slice(0, 3), beside, ...parts.slice(3)];
const twice = (words: string, how: Disturbance): TestPart[] => [
  ...once(words, how),
  act(`Once more: ${words.charAt(0).toLowerCase()}${words.slice(1)}`, how),
  open('Pluck it a last time'),
];
/** The speaking length and the short one behind its nut, one after the other. */
const both = (again = ''): TestPart[] => [
  open(`Pluck it open${again}`),
  { kind: 'read', touch: 'behind', words: `Pluck the short length between nut and tree${again}` },
];
const WHIP =
  'Keep your face away from the string. Never so hard that it hurts. Pluck it as you bend: its pitch is watched.';
const PADDED = 'Press gently with a padded finger: a thin string cuts. Do not lean on a friction peg.';

const BEND = act('Bend it {bend}, let go', 'big-bend');
const PRESS = act('Press it down between nut and tuner, {bend} at most, let go', 'press-behind-nut');

/** Every test and measure in our own words. */
export const TEST_GUIDES: Record<CauseTest | Measure, TestGuide> = {
  friction: {
    title: 'Friction between both limits',
    place: 'behind-nut',
    parts: [
      open('Pluck it open'),
      BEND,
      open('Pluck it open: its flat limit'),
      PRESS,
      open('Pluck it open: its sharp limit'),
      BEND,
      open('Pluck it open'),
      PRESS,
      open('Pluck it a last time'),
    ],
    caution: `${WHIP} ${PADDED}`,
  },
  'wings-up': {
    title: 'Raised by a press into the peg box',
    place: 'behind-nut',
    parts: [
      ...once('Press it down behind the nut, {bend} at most, let go', 'press-behind-nut'),
      act('Play on for two minutes', 'wait', 120),
      open('Pluck it open'),
    ],
    caution: PADDED,
  },
  'wings-down': {
    title: 'Lowered by a pull in the middle',
    place: 'middle',
    parts: [
      ...once('Pull it up {bend} in the middle, let go', 'big-bend'),
      act('Play on for two minutes', 'wait', 120),
      open('Pluck it open'),
    ],
    caution: WHIP,
  },
  routine: {
    title: 'Bent full before the show',
    place: 'middle',
    parts: once('Bend it {bend} three times, let go', 'big-bend'),
    caution: WHIP,
  },
  'from-below-above': {
    title: 'Arrived from below, and from above',
    place: 'tuner',
    parts: [
      act('Go below, then up to pitch', 'from-below'),
      open('Pluck it open'),
      act('Bend it {bend}, let go', 'pull-up'),
      open('Pluck it open again'),
      act('Go above, then down to pitch', 'from-above'),
      open('Pluck it open'),
      act('The same again, bend it {bend}, let go', 'pull-up'),
      open('Pluck it a last time'),
    ],
    caution: WHIP,
  },
  'big-bend': {
    title: 'A hard bend or pull',
    place: 'middle',
    parts: twice('Bend it {bend}, let go', 'big-bend'),
    caution: WHIP,
  },
  'press-behind-nut': {
    title: 'Press behind the nut',
    place: 'behind-nut',
    parts: twice('Press it down between nut and tuner, {bend} at most, let go', 'press-behind-nut'),
    caution: PADDED,
  },
  'press-behind-tree': {
    title: 'Press behind the tree',
    place: 'behind-tree',
    parts: twice('Press it down between tree and tuner, {bend} at most, let go', 'press-behind-tree'),
    caution: PADDED,
  },
  'pluck-behind-nut': {
    title: 'The short length behind the nut',
    place: 'behind-nut',
    parts: [
      ...both(),
      act('Bend it {bend}, let go', 'big-bend'),
      ...both(' again'),
      act('Press it down between nut and tree, {bend} at most, let go', 'press-behind-nut'),
      ...both(' a last time'),
    ],
    caution: `${WHIP} ${PADDED}`,
  },
  'press-behind-saddle': {
    title: 'Press behind the saddle',
    place: 'behind-saddle',
    parts: twice('Press it down behind the saddle, {bend} at most, let go', 'press-behind-saddle'),
    caution: PADDED,
  },
  dive: {
    title: 'A dive',
    place: 'bar',
    parts: withOthers(twice('Push the bar down until the string is slack, and let it back', 'dive')),
    caution: 'Not on a bridge whose makers forbid it.',
  },
  'pull-up': {
    title: 'A pull-up',
    place: 'bar',
    parts: withOthers(twice('Pull the bar up {bend}, and back', 'pull-up')),
    caution: WHIP,
  },
  'side-stretch': {
    title: 'A sideways stretch',
    place: 'middle',
    parts: twice('Pull it aside three times with the flat of your fingers, {bend} at most', 'side-stretch'),
    caution: WHIP,
  },
  wait: {
    title: 'Ten minutes untouched',
    place: 'none',
    parts: withOthers(once('Leave it alone for ten minutes', 'wait', 600)),
  },
  warm: {
    title: 'A few degrees warmer',
    place: 'none',
    parts: withOthers(once('Bring it into a room three degrees warmer, wait ten minutes', 'warm', 600)),
    caution: 'A warmer room, never a heater or the sun.',
  },
  octave: {
    title: 'The open string, its harmonic, its octave',
    place: 'middle',
    parts: [
      open('Pluck it, open'),
      { kind: 'read', touch: 'harmonic', words: 'Its harmonic at the octave: touch, pluck, let go' },
      { kind: 'read', touch: 'fret', words: 'At fret 12, pressed lightly' },
    ],
  },
  posture: {
    title: 'Lying, and as you play it',
    place: 'none',
    parts: [open('Pluck it with the instrument lying down'), act('Hold it as you play it'), open('Pluck it again')],
  },
  reference: {
    title: 'A second reference',
    place: 'none',
    parts: [tone, { ...tone, words: 'Once more, another one if there is' }],
  },
  'firm-fret': {
    title: 'Pressed lightly, pressed firmly',
    place: 'middle',
    parts: [
      { kind: 'read', touch: 'fret', words: 'At fret 12, pressed lightly' },
      { kind: 'read', touch: 'fret', words: 'At fret 12, pressed firmly' },
    ],
  },
};

/** What stands for the amount in the words of what pulls a string sharp. */
const AMOUNT = '{bend}';
/** Pulled no further than this, cents: what a bar does, and what is done to bring a string back. */
const AT_MOST: Partial<Record<CauseTest | Measure, number>> = { 'pull-up': 200, 'from-below-above': 200 };

/** Does this part pull the string sharp, so that its tension rises? */
export const raises = (part: TestPart): boolean => part.kind === 'do' && part.words.includes(AMOUNT);

/** A pull in words for strings that no fingerboard lies under: what is bent there has nothing to be bent on. */
const PULL = `Pull it aside in the middle, ${AMOUNT} at most, let go`;

/**
 * A test as it is done on a string.
 * @param bendOf how far the string may be pulled sharp, at most so many cents; undefined where it may not
 * @returns undefined where it would take the string too near to breaking
 */
export function guideFor(
  test: CauseTest | Measure,
  build: CauseBuild,
  bendOf: (mostCents?: number) => Bend | undefined,
): TestGuide | undefined {
  const guide = TEST_GUIDES[test];
  if (!guide.parts.some(raises)) return guide;
  const bend = bendOf(AT_MOST[test]);
  if (!bend) return undefined;
  const bends = (p: TestPart) => p.kind === 'do' && p.how !== 'press-behind-nut' && /\bbend\b/i.test(p.words);
  const worded = (p: TestPart): TestPart => (!hasFrets(build) && bends(p) ? { ...p, words: PULL } : p);
  const parts = guide.parts.map((p): TestPart => {
    const said = worded(p);
    const words = said.words.replace(AMOUNT, bend.words);
    return said.kind === 'do' && raises(said) ? { ...said, words, raises: true } : { ...said, words };
  });
  return { ...guide, parts };
}

/** Changes by a test, cents: the first time, the second where it was done twice, and that of the string beside it at the first. */
export interface Changes {
  first: number;
  second: number | undefined;
  others: number | undefined;
  /** Half of what two figures of one thing differ by, where both were to be alike. */
  repeat: number;
  /** How far the note at the octave's fret lies from the octave of the open string, where that was read. */
  fret?: number;
}

/**
 * Changes from what was read in a test.
 * @param heardHz frequencies in the order of its parts
 * @param a4Hz the reference in use
 */
export function changesOf(test: CauseTest | Measure, heardHz: readonly number[], a4Hz: number): Changes {
  const touches = TEST_GUIDES[test].parts.flatMap((p) => (p.kind === 'read' ? p.touch : []));
  const of = (neighbour: boolean) => heardHz.filter((_, i) => (touches[i] === 'neighbour') === neighbour);
  const [n1, n2] = of(true);
  const others = n2 === undefined ? undefined : cents(n2, n1!);
  const [a, b, c, d, e] = of(false);
  const repeat = 0;
  if (test === 'pluck-behind-nut') {
    // How much further the short length went than the speaking one.
    const [open0, short0, open1, short1, open2, short2] = heardHz;
    const first = cents(short1!, short0!) - cents(open1!, open0!);
    return { first, second: cents(short2!, short1!) - cents(open2!, open1!), others: undefined, repeat };
  }
  if (test === 'octave') {
    // An even string's harmonic is twice the open string, but for its stiffness; what the fret is off is the saddle's too.
    return { first: unevenCents(a!, b!), second: undefined, others, repeat, fret: cents(c!, 2 * a!) };
  }
  if (test === 'reference') return { first: cents(a!, a4Hz), second: cents(b!, a4Hz), others, repeat };
  if (test === 'friction') {
    // Both limits against where it stood, each from two readings.
    const [flat, sharp] = [(cents(b!, a!) + cents(d!, a!)) / 2, (cents(c!, a!) + cents(e!, a!)) / 2];
    return { first: flat, second: sharp, others, repeat: Math.abs(cents(c!, b!) - cents(e!, d!)) / 2 };
  }
  const second = test === 'from-below-above' ? cents(d!, c!) : c === undefined ? undefined : cents(c, b!);
  return { first: cents(b!, a!), second, others, repeat };
}
