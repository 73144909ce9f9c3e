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

const REPAIRER = 'Cracks, a lifting bridge or nut, a moving soundpost, fret or neck work: stop and see a repairer.';

export const REMEDIES: Record<Cause, Remedy> = {
  'nut-friction': {
    name: 'it binds at the nut',
    short: 'nut',
    steps: [
      'Take the string off or lift it aside. Wipe the slot, and draw a fold of fine paper through it once.',
      'Put in a trace of lubricant or soft graphite. Wipe off the rest.',
      'Until then, bend the string, then tune it from below.',
    ],
    trial: 'slot lubricated',
    expect: 'A press behind the nut should now move it a third as far, or less.',
    caution: `A slot that is too narrow, too deep or cracked is a job for a repairer. ${REPAIRER}`,
  },
  'tree-friction': {
    name: 'it binds at the string tree',
    short: 'string tree',
    steps: [
      'Slacken it and wipe the guide inside.',
      'Put on a trace of lubricant. If its edges are sharp, polish them, do not file.',
    ],
    trial: 'tree lubricated',
    expect: 'A press behind the tree should now hardly move it.',
    caution: REPAIRER,
  },
  'saddle-friction': {
    name: 'it binds at the saddle or bridge',
    short: 'saddle',
    steps: [
      'Slacken it and run a thread over the place. Where it catches, polish; do not reshape.',
      'Put on a trace of lubricant.',
    ],
    trial: 'saddle lubricated',
    expect: 'A press behind the saddle should now hardly move it.',
    caution: REPAIRER,
  },
  'winding-slip': {
    name: 'its winding slips',
    short: 'winding',
    steps: [
      'Slacken and unwind it.',
      'Wind it again, two to three tidy turns downward, the end locked, no twist along it.',
    ],
    trial: 'wound anew',
    expect: 'A stretch should take it no further than the second one did.',
    caution: 'Ends are sharp: bend them over.',
  },
  'fresh-string': {
    name: 'it is new and still stretches',
    short: 'fresh string',
    steps: ['Stretch it in rounds, then let it rest. Come back at the next check.'],
    trial: 'stretched',
    expect: 'Each round drops less. Nylon takes days.',
  },
  'gear-backlash': {
    name: 'the tuner’s gears have play',
    short: 'gears',
    steps: ['Always tune from below.', 'Tighten the button’s screw a little, not by force.'],
    trial: 'from below only',
    expect: 'Tuned from below it stays. Tuned from above it falls at the first bend.',
    caution: 'Play that the screw does not take out is a job for a repairer.',
  },
  'peg-slip': {
    name: 'the peg or pin slips',
    short: 'peg or pin',
    steps: [
      'Peg: look at its two rings. Put peg compound or chalk thinly on the rings. Push in while you turn.',
      'Pin: dry air shrinks the wood. Turn it a little deeper with the key straight.',
      'Keep the instrument where the air is not dry.',
    ],
    trial: 'peg treated',
    expect: 'After a sideways stretch it should not go on falling.',
    caution: 'A peg out of round or a pin that stays loose: see a repairer. Do not glue anything or drive it in.',
  },
  'pivot-friction': {
    name: 'the bridge’s pivot binds',
    short: 'pivot',
    steps: [
      'Wipe knife edges and posts. Put on a trace of lubricant.',
      'Until then, end every move of the bar the same way.',
    ],
    trial: 'pivot lubricated',
    expect: 'After a dive all strings should come back together.',
    caution: 'Worn edges and leaning posts are a job for a repairer. Springs are under load: keep fingers clear.',
  },
  'loose-clamp': {
    name: 'a locking clamp lets it slip',
    short: 'clamp',
    steps: [
      'Slacken the string, seat it under its pad, and tighten the clamp firmly, not by force.',
      'If the pad has a deep groove, turn or change it.',
    ],
    trial: 'clamp tightened',
    expect: 'A press behind the clamp should not move it.',
  },
  'springs-moved': {
    name: 'springs or claw have moved',
    short: 'springs',
    steps: [
      'Check that every spring sits in its hook and both claw screws are in equally far.',
      'Retune all strings, twice round.',
    ],
    trial: 'springs seated',
    expect: 'After a dive all strings come back to the same place.',
    caution: 'Springs are under load: keep fingers and eyes clear.',
  },
  room: {
    name: 'it is the room',
    short: 'room',
    steps: ['Let it stand for half an hour where you play, then tune all strings.'],
    trial: 'an hour in the room',
    expect: 'All strings move together, and stop when the room does.',
  },
  'worn-string': {
    name: 'the string is worn or uneven',
    short: 'worn string',
    steps: ['Read it once more.', 'Then change it. Wipe the next one after playing.'],
    trial: 'string changed',
    expect: 'Its octave agrees again, and its readings repeat.',
  },
  'wrong-reference': {
    name: 'the reference is different',
    short: 'reference',
    steps: ['Read the same fork or note with both devices, and set one by the other.'],
    trial: 'reference set',
    expect: 'All strings are off by the same amount, then by none.',
  },
  'neck-flex': {
    name: 'neck or body bend as you hold it',
    short: 'neck',
    steps: ['Tune it as you play it, not lying down.', 'Do not lean on the neck while you tune.'],
    trial: 'tuned as played',
    expect: 'Lying and playing agree within a cent or two.',
    caution: 'A neck that moves by itself is a job for a repairer.',
  },
  pressing: {
    name: 'it is pressed sharp',
    short: 'pressing',
    steps: ['Press lightly, close behind the fret.', 'High frets or a high nut make it worse: see a repairer.'],
    trial: 'pressed lightly',
    expect: 'Light and firm pressing agree within a few cents.',
    caution: REPAIRER,
  },
  none: {
    name: 'nothing is wrong with it',
    short: 'nothing wrong',
    steps: ['Tune it from below and leave it alone.'],
    trial: 'left alone',
    expect: 'It moves as such a string does.',
  },
};

/** The steps that an instrument has a use for: no rings of a peg on a pin, no key on a peg. */
export const stepsFor = (cause: Cause, { tuners }: CauseBuild): string[] =>
  REMEDIES[cause].steps.filter((s) => !s.startsWith(tuners === 'pin' ? 'Peg:' : 'Pin:'));
