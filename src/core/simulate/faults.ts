import type { FaultTruth, StringTruth } from './truth';
import { clamp } from '../base';

/** What hands do to a string between two readings. */
export type Disturbance =
  | 'from-below'
  | 'from-above'
  | 'big-bend'
  | 'press-behind-nut'
  | 'press-behind-tree'
  | 'press-behind-saddle'
  | 'dive'
  | 'pull-up'
  | 'side-stretch'
  | 'wait'
  | 'warm';

/** How far each pushes a string that binds, of the whole way between its limits (house). */
const PUSHES: Record<'nut' | 'tree', Partial<Record<Disturbance, number>>> = {
  nut: {
    'from-below': -0.6,
    'from-above': -2,
    'big-bend': -2,
    'press-behind-nut': 2,
    'press-behind-tree': 0.4,
    dive: 2,
    'pull-up': -1.4,
    'side-stretch': -2,
  },
  tree: {
    'from-below': -0.4,
    'from-above': -2,
    'big-bend': -1.4,
    'press-behind-nut': 0.6,
    'press-behind-tree': 2,
    dive: 1.6,
    'pull-up': -1,
    'side-stretch': -1.4,
  },
};
/** Share of its slip that a loose peg or pin gives at each pull (house). */
const SLIPS: Partial<Record<Disturbance, number>> = {
  'from-below': 0.15,
  'from-above': 0.15,
  'big-bend': 0.5,
  'pull-up': 0.4,
  'side-stretch': 1,
  wait: 0.2,
};

/** What rest and playing leave of where it stands between its limits (house). */
const CALMED = 0.75;
/** How much warmer, deg C. */
const WARMER_C = 3;

/** The hand does this to the string: what its fault makes of it stays as a change of pitch. */
export function disturb(string: StringTruth, atMs: number, how: Disturbance): StringTruth {
  let cents = how === 'warm' ? WARMER_C * string.tempCoefficient : 0;
  const faults = (string.faults ?? []).map((f) => {
    if (f.kind === 'peg' || f.kind === 'pin') {
      cents -= f.cents * (SLIPS[how] ?? 0);
      return f;
    }
    // Tuned from above it stands at its sharp limit before it is bent.
    const from = how === 'from-above' ? 1 : f.at;
    const at = how === 'wait' ? CALMED * f.at : clamp(from + (PUSHES[f.kind][how] ?? 0), -1, 1);
    cents += 0.5 * f.cents * (at - from);
    return { ...f, at };
  });
  return { ...string, faults, slips: cents === 0 ? string.slips : [...string.slips, { atMs, cents: -cents }] };
}

/** A short length rings no longer than this, s (house). */
const SHORT_RINGS_S = 0.9;

/**
 * The short length behind the nut as it sounds: higher by the lengths, and off as far as the nut holds it apart from the speaking
 * length. What goes over from one to the other moves the short one by 1 / aside as much, the other way.
 * @param aside short length over speaking length
 */
export function behindNut(string: StringTruth, atMs: number, aside: number): StringTruth {
  const apart = (string.faults ?? []).reduce(
    (sum, f) => sum - (f.kind === 'nut' ? 0.5 * f.cents * f.at * (1 + 1 / aside) : 0),
    0,
  );
  return {
    ...string,
    targetHz: string.targetHz / aside,
    decayS: Math.min(string.decayS, SHORT_RINGS_S),
    slips: [...string.slips, { atMs, cents: -apart }],
  };
}

/** What was at fault is put right: nine tenths of it, as a careful hand does. */
export const mend = (string: StringTruth, kind: FaultTruth['kind']): StringTruth => ({
  ...string,
  faults: (string.faults ?? []).map((f) => (f.kind === kind ? { ...f, cents: 0.1 * f.cents } : f)),
});
