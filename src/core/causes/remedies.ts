import type { CauseBuild } from './kinds';
import type { Cause } from '../codes';

/** What is written of a remedy: a slot, a tree or a saddle is lubricated. */
export const treatmentFor = (cause: Cause): 'lubricated' | 'other' =>
  cause.endsWith('-friction') ? 'lubricated' : 'other';

/** What can be done about a cause, in our own words; the maker's and a qualified repairer's word comes first. */
export interface Remedy {
  /** The cause, as one says it. */
  name: string;
  /** Its place or thing, where several stand in a row. */
  short: string;
  steps: string[];
  expect: string;
  /** The remedy in a word or two, as a trial names it. */
  trial: string;
  caution?: string;
}

const REPAIRER = 'Cracks, a lifting bridge or nut, a moving soundpost, fret or neck work: stop, and see a repairer.';

export const REMEDIES: Record<Cause, Remedy> = {
  'nut-friction': {
    name: 'it binds at the nut',
    short: 'nut',
    steps: [
      'String off, or lifted aside: wipe the slot, draw a fold of fine paper through once.',
      'A trace of lubricant or soft graphite; wipe off what is too much.',
      'Until then end every tuning from below, after a bend.',
    ],
    trial: 'slot lubricated',
    expect: 'Pressed behind the nut it should move by a third or less.',
    caution: `A slot that is too narrow, too deep or cracked is a repairer’s. ${REPAIRER}`,
  },
  'tree-friction': {
    name: 'it binds at the string tree',
    short: 'string tree',
    steps: ['Slacken it and wipe the wings inside.', 'A trace of lubricant; sharp wings: polish, do not file.'],
    trial: 'tree lubricated',
    expect: 'Pressed behind the tree it should hardly move.',
    caution: REPAIRER,
  },
  'saddle-friction': {
    name: 'it binds at the saddle or bridge',
    short: 'saddle',
    steps: [
      'Slacken it, run a thread over the place: where it catches, polish, do not reshape.',
      'A trace of lubricant.',
    ],
    trial: 'saddle lubricated',
    expect: 'Pressed behind the saddle it should hardly move.',
    caution: REPAIRER,
  },
  'winding-slip': {
    name: 'its winding slips',
    short: 'winding',
    steps: [
      'Slacken and unwind it.',
      'Wind it again downward, two to three tidy turns, the end locked, no twist along it.',
    ],
    trial: 'wound anew',
    expect: 'A stretch should take it no further than the second one did.',
    caution: 'Ends are sharp: bend them over.',
  },
  'fresh-string': {
    name: 'it is fresh and still stretches',
    short: 'fresh string',
    steps: ['Stretch rounds, then let it rest; come back when the bench says.'],
    trial: 'stretched',
    expect: 'Each round drops less; nylon takes days.',
  },
  'gear-backlash': {
    name: 'the tuner’s gears have play',
    short: 'gears',
    steps: ['Arrive from below, always.', 'The button’s screw a little tighter, within reason.'],
    trial: 'from below only',
    expect: 'From below it stays; from above it goes on falling at the first bend.',
    caution: 'Play that a screw does not take out is a repairer’s.',
  },
  'peg-slip': {
    name: 'the peg or pin slips',
    short: 'peg or pin',
    steps: [
      'Peg: look at its two rings. Slips: peg compound thinly, or chalk on the rings; push in while you turn.',
      'Pin: dry air shrinks the wood; turn it a little deeper while turning, with the key straight.',
      'Keep the instrument where the air is not dry.',
    ],
    trial: 'peg treated',
    expect: 'Stretched aside it should not go on falling.',
    caution:
      'A peg that is out of round, a pin that stays loose: a repairer fits another. Nothing is glued or driven in.',
  },
  'pivot-friction': {
    name: 'the bridge’s pivot binds',
    short: 'pivot',
    steps: ['Wipe knife edges and posts; a trace of lubricant.', 'Until then end every bend the same way.'],
    trial: 'pivot lubricated',
    expect: 'After a dive all strings should come back alike.',
    caution: 'Worn edges and leaning posts are a repairer’s. Springs are under load: fingers clear.',
  },
  'loose-clamp': {
    name: 'a locking clamp lets it slip',
    short: 'clamp',
    steps: [
      'Slacken, seat the string under its pad, tighten the clamp firmly, not by force.',
      'A pad with a deep groove: turn or change it.',
    ],
    trial: 'clamp tightened',
    expect: 'Pressed behind the clamp it should not move.',
  },
  'springs-moved': {
    name: 'springs or claw have moved',
    short: 'springs',
    steps: ['Look that every spring sits in its hook and the claw’s screws are alike.', 'Retune all, twice round.'],
    trial: 'springs seated',
    expect: 'After a dive all come back to the same place.',
    caution: 'Springs are under load: fingers and eyes clear.',
  },
  room: {
    name: 'it is the room',
    short: 'room',
    steps: ['Let it stand half an hour where it will be played, then tune all.'],
    trial: 'an hour in the room',
    expect: 'All strings move alike, and stop when the room does.',
  },
  'worn-string': {
    name: 'the string is worn or uneven',
    short: 'worn string',
    steps: ['Read it once more.', 'Then change it; wipe it after playing next time.'],
    trial: 'string changed',
    expect: 'Its octave agrees again, and its readings repeat.',
  },
  'wrong-reference': {
    name: 'the reference is another',
    short: 'reference',
    steps: ['Read the same fork or note by both devices, and set one by the other.'],
    trial: 'reference set',
    expect: 'All strings are off by one and the same amount, then by none.',
  },
  'neck-flex': {
    name: 'neck or body give as you hold it',
    short: 'neck',
    steps: ['Tune it as you play it, not lying.', 'Do not lean on the neck while you tune.'],
    trial: 'tuned as played',
    expect: 'Lying and playing agree within a cent or two.',
    caution: 'A neck that moves by itself is a repairer’s.',
  },
  pressing: {
    name: 'it is pressed sharp',
    short: 'pressing',
    steps: ['Press lightly, close behind the fret.', 'High frets or a high nut make it worse: a repairer’s work.'],
    trial: 'pressed lightly',
    expect: 'Light and firm agree within a few cents.',
    caution: REPAIRER,
  },
  none: {
    name: 'nothing is wrong with it',
    short: 'nothing wrong',
    steps: ['Tune it from below and leave it alone.'],
    trial: 'left alone',
    expect: 'What it does is what such a string does.',
  },
};

/** The steps that an instrument has a use for: no rings of a peg on a pin, no key on a peg. */
export const stepsFor = (cause: Cause, { tuners }: CauseBuild): string[] =>
  REMEDIES[cause].steps.filter((s) => !s.startsWith(tuners === 'pin' ? 'Peg:' : 'Pin:'));
