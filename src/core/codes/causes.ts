/** Why a string does not stay; the codes are part of the door. */
export const CAUSES = [
  'nut-friction',
  'tree-friction',
  'saddle-friction',
  'winding-slip',
  'fresh-string',
  'gear-backlash',
  'peg-slip',
  'pivot-friction',
  'loose-clamp',
  'springs-moved',
  'room',
  'worn-string',
  'wrong-reference',
  'neck-flex',
  'pressing',
  'none',
] as const;
export type Cause = (typeof CAUSES)[number];

/** What can be done between two readings, in the order of effort; `since-last` is known before any. */
export const TESTS = [
  'from-below-above',
  'big-bend',
  'press-behind-nut',
  'press-behind-tree',
  'pluck-behind-nut',
  'press-behind-saddle',
  'dive',
  'pull-up',
  'side-stretch',
  'wait',
  'warm',
  'octave',
  'posture',
  'reference',
  'firm-fret',
] as const;
export type CauseTest = (typeof TESTS)[number];

/** What is measured the same way and is no evidence of the finder: friction between both limits, and what a trick is worth. */
export const MEASURES = ['friction', 'wings-up', 'wings-down', 'routine'] as const;
export type Measure = (typeof MEASURES)[number];
/** Whether a test speaks of causes; the others only measure. */
export const isCauseTest = (test: CauseTest | Measure): test is CauseTest => !MEASURES.some((m) => m === test);

/** What the player is asked, at most, and the answers: codes that the log keeps. */
export const TOLD = {
  when: ['bending', 'bar', 'left-alone', 'room', 'fretting'],
  strings: ['one', 'some', 'all'],
  way: ['flat', 'sharp', 'either'],
  after: ['strung', 'carried', 'worked-on', 'nothing'],
  feel: ['creaks', 'play', 'gives', 'smooth'],
} as const;
export type ToldQuestion = keyof typeof TOLD;
export type Told = { [Q in ToldQuestion]?: (typeof TOLD)[Q][number] };
/** Whether these are answers to what is asked. */
export const isTold = (value: unknown): value is Told =>
  typeof value === 'object' &&
  value !== null &&
  Object.entries(value).every(
    ([question, answer]) =>
      Object.hasOwn(TOLD, question) && (TOLD[question as ToldQuestion] as readonly unknown[]).includes(answer),
  );

/** Whether a remedy helped. */
export type RemedyOutcome = 'helped' | 'did-not' | 'cannot-tell';
