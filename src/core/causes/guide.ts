import type { CauseTest } from './kinds';

/** What is sounded, or done, in a test. */
export type TestPart =
  { kind: 'read'; touch: 'open' | 'fret' | 'harmonic'; words: string } | { kind: 'do'; words: string; waitS?: number };

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
const act = (words: string, waitS?: number): TestPart => ({ kind: 'do', words, ...(waitS ? { waitS } : {}) });
const twice = (words: string, waitS?: number): TestPart[] => [
  open('Pluck it open'),
  act(words, waitS),
  open('Pluck it open again'),
  act(`Once more: ${words.charAt(0).toLowerCase()}${words.slice(1)}`, waitS),
  open('Pluck it a last time'),
];
const WHIP = 'Face out of the string’s plane; never so hard that it hurts.';
const PADDED = 'A padded finger, gently: a thin string cuts. A push peg jumps when it is leaned on.';

/** Every test in our own words. */
export const TEST_GUIDES: Record<CauseTest, TestGuide> = {
  'from-below-above': {
    title: 'Arrived from below, and from above',
    place: 'tuner',
    parts: [
      act('Take it below, then up to pitch'),
      open('Pluck it open'),
      act('Bend it a whole tone, let go'),
      open('Pluck it open again'),
      act('Take it above, then down to pitch'),
      open('Pluck it open'),
      act('The same bend, let go'),
      open('Pluck it a last time'),
    ],
    caution: WHIP,
  },
  'big-bend': { title: 'A big bend', place: 'middle', parts: twice('Bend it two tones, let go'), caution: WHIP },
  'press-behind-nut': {
    title: 'Press behind the nut',
    place: 'behind-nut',
    parts: twice('Press it down between nut and tuner, let go'),
    caution: PADDED,
  },
  'press-behind-tree': {
    title: 'Press behind the tree',
    place: 'behind-tree',
    parts: twice('Press it down between tree and tuner, let go'),
    caution: PADDED,
  },
  'press-behind-saddle': {
    title: 'Press behind the saddle',
    place: 'behind-saddle',
    parts: twice('Press it down behind the saddle, let go'),
    caution: PADDED,
  },
  dive: {
    title: 'A dive',
    place: 'bar',
    parts: twice('Let the bar down till it is slack, and back'),
    caution: 'Not on a bridge whose makers forbid it.',
  },
  'pull-up': { title: 'A pull-up', place: 'bar', parts: twice('Pull the bar up a tone, and back'), caution: WHIP },
  'side-stretch': {
    title: 'A sideways stretch',
    place: 'middle',
    parts: twice('Draw it aside three times with the flat of the fingers'),
    caution: WHIP,
  },
  wait: {
    title: 'Ten minutes untouched',
    place: 'none',
    parts: [open('Pluck it open'), act('Leave it alone for ten minutes', 600), open('Pluck it open again')],
  },
  warm: {
    title: 'A few degrees warmer',
    place: 'none',
    parts: [
      open('Pluck it open'),
      act('Bring it into a room three degrees warmer, wait ten minutes', 600),
      open('Pluck it open again'),
    ],
    caution: 'A warmer room, never a heater or the sun.',
  },
  octave: {
    title: 'The octave against the harmonic',
    place: 'middle',
    parts: [
      { kind: 'read', touch: 'harmonic', words: 'Its harmonic at the octave: touch, pluck, let go' },
      { kind: 'read', touch: 'fret', words: 'At fret 12, pressed lightly' },
    ],
  },
  posture: {
    title: 'Lying, and as you play it',
    place: 'none',
    parts: [open('Pluck it, the instrument lying'), act('Take it up as you play it'), open('Pluck it so')],
  },
  reference: { title: 'A second reference', place: 'none', parts: [] },
  'firm-fret': {
    title: 'Pressed lightly, pressed firmly',
    place: 'middle',
    parts: [
      { kind: 'read', touch: 'fret', words: 'At fret 12, pressed lightly' },
      { kind: 'read', touch: 'fret', words: 'At fret 12, pressed firmly' },
    ],
  },
};

/** Changes from the readings of a test, cents in their order: first, and where it was done twice, second. */
export function changesOf(test: CauseTest, readings: readonly number[]): { first: number; second: number | undefined } {
  const [a, b, c, d] = readings;
  const first = b! - a!;
  return { first, second: test === 'from-below-above' ? d! - c! : c === undefined ? undefined : c - b! };
}
