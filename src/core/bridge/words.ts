import type { BridgeOrder, BridgeTask } from '../codes';
import { signedCents as signed } from '../music';
import { riseWithout, type Coupling } from './spec';
import type { Way } from './ways';

export const TASKS: Record<BridgeTask, { name: string; what: string }> = {
  'touch-up': { name: 'Touch-up', what: 'The daily look: a few cents, by the fine tuners where there are some.' },
  fresh: { name: 'New strings', what: 'The same strings and tuning, new: tens of cents off.' },
  'new-tuning': {
    name: 'A new tuning',
    what: 'Other notes or gauges: the claw first, then the strings. Level is as it stands now, unless you measure it.',
  },
};
export const ORDERS: Record<BridgeOrder | 'own', string> = {
  'least-tilt': 'Least tilt on the way',
  'centre-out': 'Middle outward',
  'outside-in': 'Outside in',
  own: 'My own',
};
export const HELD = {
  free: { name: 'free both ways', what: '' },
  stop: {
    name: 'against a stop, down only',
    what: 'While it rests on its stop no string moves another: each to its target. At the end push the bar down a little: it must come back to the stop at once, else half a turn more on the claw.',
  },
  block: {
    name: 'blocked',
    what: 'Blocked, no string moves another: each to its target. Then the block comes out, and the claw is told from what the strings did.',
  },
} as const;

/** What is said when a session is kept. */
export const keptWords = (held: keyof typeof HELD | undefined, nutOpen: boolean): string =>
  held === 'block'
    ? 'Kept. Take the block out, a hand on the bar. Then Enter: all are read, and the claw is told.'
    : held
      ? 'Kept. Push the bar down a little: it must come back to its stop at once.'
      : nutOpen
        ? 'Kept, with what was learned of this bridge. Lock the nut evenly, then L: what locking did is read.'
        : 'Kept, with what was learned of this bridge: next time it is surer from the first string on.';

/** An order as it is typed, '3 4 2 5 1 6'; undefined unless every string is there once. */
export function ownOrderOf(text: string, strings: number): number[] | undefined {
  const order = text
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(Number);
  const all = [...order].sort((a, b) => a - b);
  return order.length === strings && all.every((n, i) => n === i + 1) ? order : undefined;
}
export const WAY_WORDS: Record<Way, string> = {
  stops: 'Stops, as told here',
  zeroing: 'Every string to its target, again and again',
  mirror: 'Mirror: as far beyond as it was off',
  block: 'Blocked, tuned, released, then the claw',
};

/** Turns of the claw in sixteenths: '1 and 3/16 turns out'. */
export function clawWords(turns: number): string {
  const sixteenths = Math.round(Math.abs(turns) * 16);
  const whole = Math.floor(sixteenths / 16);
  const rest = sixteenths % 16;
  const divisor = [8, 4, 2].find((d) => rest % d === 0) ?? 1;
  const part = rest === 0 ? '' : `${rest / divisor}/${16 / divisor}`;
  const amount = whole === 0 ? part : part ? `${whole} and ${part}` : String(whole);
  return `${amount} turn${whole > 1 || (whole === 1 && part) ? 's' : ''} ${turns < 0 ? 'out' : 'in'}`;
}

/** A turn of the claw beyond what the change of the strings' pull gives. */
export const doubtfulClawWords = (turns: number, law: number): string =>
  `${clawWords(turns)} would level it, and this change should need ${Math.abs(law) < 1 / 32 ? 'none' : clawWords(law)}. Is the block out, and does every spring sit? Enter: turn it all the same`;

/** What a stop is, in the figure that the hand follows. */
export const stopWords = (cents: number): string => (Math.abs(cents) < 0.05 ? 'stop at 0' : `stop at ${signed(cents)}`);

/** What the others do while one string is off. */
export function offWords(coupling: Coupling, notes: readonly string[]): string {
  const low = notes.length - 1;
  const rise = riseWithout(coupling, low).filter((c) => c !== null);
  return `One string at a time, or the bridge blocked. With the ${notes[low]} off the others stand ${signed(Math.min(...rise), 0)} to ${signed(Math.max(...rise), 0)} sharp: do not turn them, they come back with it.`;
}

/** How the coupling stands: when it settles, and when it never does. */
export function couplingWords(lambda: number): string {
  const said = `Of what one string is moved by, the bridge gives back ${Math.round(100 * lambda)} %`;
  return lambda > 0.9
    ? `${said} (lambda ${lambda.toFixed(2)}): add a spring or lighter strings, or it hardly ever settles.`
    : `${said} (lambda ${lambda.toFixed(2)}).`;
}

/** What is to be done now; undefined where the figure and its stop say it. @param note the string in hand */
export function bridgeSentence(
  act: 'read' | 'set' | 'claw' | 'done' | undefined,
  note: string,
  claw: { turns: number; lawTurns: number | undefined; doubtful: boolean },
): string | undefined {
  if (act === undefined) return 'Enter begins: every string is read first';
  if (claw.doubtful) return doubtfulClawWords(claw.turns, claw.lawTurns!);
  if (act === 'claw') return `Turn both screws of the claw ${clawWords(claw.turns)}, alike. Enter: done`;
  if (act === 'done') return 'All are right. Enter: keep it';
  return act === 'read' ? `Pluck ${note}: the others damped, hand off the bridge, bar at rest` : undefined;
}
export const clawTurnedWords = (turns: number) => `Claw ${clawWords(turns)}: now the strings.`;
export const bridgeReadWords = (note: string, cents: number, act: 'read' | 'set') =>
  act === 'read' ? `${note} reads ${signed(cents)}.` : `${note} stopped at ${signed(cents)}.`;
export const tiltWords = (degrees: number) => `Tilt ${signed(degrees)}° taken.`;
export const TOO_FEW_SPRINGS = 'These springs do not hold these strings: say how many there are.';
export const BRIDGE_STOPPED = 'Stopped. What was read stays in the log.';
