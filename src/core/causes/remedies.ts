import type { Cause } from './kinds';

/** What can be done about a cause, in our own words; the maker's and a qualified repairer's word comes first. */
export interface Remedy {
  /** The cause, as one says it. */
  name: string;
  steps: string[];
  expect: string;
  caution?: string;
}

const REPAIRER = 'Cracks, a lifting bridge or nut, a moving soundpost, fret or neck work: stop, and see a repairer.';

export const REMEDIES: Record<Cause, Remedy> = {
  'nut-friction': {
    name: 'it binds at the nut',
    steps: [
      'String off, or lifted aside: wipe the slot, draw a fold of fine paper through once.',
      'A trace of lubricant or soft graphite; wipe off what is too much.',
      'Until then end every tuning from below, after a bend.',
    ],
    expect: 'Pressed behind the nut it should move by a third or less.',
    caution: `A slot that is too narrow, too deep or cracked is a repairer’s. ${REPAIRER}`,
  },
  'tree-friction': {
    name: 'it binds at the string tree',
    steps: ['Slacken it and wipe the wings inside.', 'A trace of lubricant; sharp wings: polish, do not file.'],
    expect: 'Pressed behind the tree it should hardly move.',
    caution: REPAIRER,
  },
  'saddle-friction': {
    name: 'it binds at the saddle or bridge',
    steps: [
      'Slacken it, run a thread over the place: where it catches, polish, do not reshape.',
      'A trace of lubricant.',
    ],
    expect: 'Pressed behind the saddle it should hardly move.',
    caution: REPAIRER,
  },
  'winding-slip': {
    name: 'its winding slips',
    steps: [
      'Slacken and unwind it.',
      'Wind it again downward, two to three tidy turns, the end locked, no twist along it.',
    ],
    expect: 'A stretch should take it no further than the second one did.',
    caution: 'Ends are sharp: bend them over.',
  },
  'fresh-string': {
    name: 'it is fresh and still stretches',
    steps: ['Stretch rounds, then let it rest; come back when the bench says.'],
    expect: 'Each round drops less; nylon takes days.',
  },
  'gear-backlash': {
    name: 'the tuner’s gears have play',
    steps: ['Arrive from below, always.', 'The button’s screw a little tighter, within reason.'],
    expect: 'From below it stays; from above it goes on falling at the first bend.',
    caution: 'Play that a screw does not take out is a repairer’s.',
  },
  'peg-slip': {
    name: 'the peg or pin slips',
    steps: [
      'Peg: look at its two rings. Slips: peg compound thinly, or chalk on the rings; push in while you turn.',
      'Pin: dry air shrinks the wood; turn it a little deeper while turning, with the key straight.',
      'Keep the instrument where the air is not dry.',
    ],
    expect: 'Stretched aside it should not go on falling.',
    caution:
      'A peg that is out of round, a pin that stays loose: a repairer fits another. Nothing is glued or driven in.',
  },
  'pivot-friction': {
    name: 'the bridge’s pivot binds',
    steps: ['Wipe knife edges and posts; a trace of lubricant.', 'Until then end every bend the same way.'],
    expect: 'After a dive all strings should come back alike.',
    caution: 'Worn edges and leaning posts are a repairer’s. Springs are under load: fingers clear.',
  },
  'loose-clamp': {
    name: 'a locking clamp lets it slip',
    steps: [
      'Slacken, seat the string under its pad, tighten the clamp firmly, not by force.',
      'A pad with a deep groove: turn or change it.',
    ],
    expect: 'Pressed behind the clamp it should not move.',
  },
  'springs-moved': {
    name: 'springs or claw have moved',
    steps: ['Look that every spring sits in its hook and the claw’s screws are alike.', 'Retune all, twice round.'],
    expect: 'After a dive all come back to the same place.',
    caution: 'Springs are under load: fingers and eyes clear.',
  },
  room: {
    name: 'it is the room',
    steps: ['Let it stand half an hour where it will be played, then tune all.'],
    expect: 'All strings move alike, and stop when the room does.',
  },
  'worn-string': {
    name: 'the string is worn or uneven',
    steps: ['Read it once more.', 'Then change it; wipe it after playing next time.'],
    expect: 'Its octave agrees again, and its readings repeat.',
  },
  'wrong-reference': {
    name: 'the reference is another',
    steps: ['Read the same fork or note by both devices, and set one by the other.'],
    expect: 'All strings are off by one and the same amount, then by none.',
  },
  'neck-flex': {
    name: 'neck or body give as you hold it',
    steps: ['Tune it as you play it, not lying.', 'Do not lean on the neck while you tune.'],
    expect: 'Lying and playing agree within a cent or two.',
    caution: 'A neck that moves by itself is a repairer’s.',
  },
  pressing: {
    name: 'it is pressed sharp',
    steps: ['Press lightly, close behind the fret.', 'High frets or a high nut make it worse: a repairer’s work.'],
    expect: 'Light and firm agree within a few cents.',
    caution: REPAIRER,
  },
  none: {
    name: 'nothing is wrong with it',
    steps: ['Tune it from below and leave it alone.'],
    expect: 'What it does is what such a string does.',
  },
};
