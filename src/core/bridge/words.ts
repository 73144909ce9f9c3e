import type { BridgeOrder, BridgeTask } from '../codes';
import { signedCents as signed } from '../music';
import type { Way } from './ways';
import { riseWithout, type Coupling } from './coupling';

export const TASKS: Record<BridgeTask, { name: string; what: string }> = {
  'touch-up': { name: 'Touch-up', what: 'The daily tuning: a few cents, with the fine tuners if there are any.' },
  fresh: { name: 'New strings', what: 'The same strings and tuning, but new: tens of cents off.' },
  'new-tuning': {
    name: 'A new tuning',
    what: 'Other notes or gauges. First the claw, then the strings. The bridge counts as level now, unless you measure it.',
  },
};
export const ORDERS: Record<BridgeOrder | 'own', string> = {
  'least-tilt': 'Least tilt',
  'centre-out': 'From the middle out',
  'outside-in': 'From outside in',
  own: 'My own',
};
export const HELD = {
  free: { name: 'free both ways', what: '' },
  stop: {
    name: 'against a stop, down only',
    what: 'While the bridge rests on its stop, no string moves another. Tune each to its target. At the end push the bar down a little: it must return to the stop at once. If not, tighten the claw half a turn.',
  },
  block: {
    name: 'blocked',
    what: 'With the block in, no string moves another. Tune each to its target, then take the block out. What the strings do then tells the claw turn.',
  },
} as const;

/** What is said when a session is kept. */
export const bridgeKeptWords = (held: keyof typeof HELD | undefined, nutOpen: boolean): string =>
  held === 'block'
    ? 'Saved. Take the block out with a hand on the bar. Then press Enter and read all strings.'
    : held
      ? 'Saved. Push the bar down a little: it must return to its stop at once.'
      : nutOpen
        ? 'Saved. Lock the nut evenly, then press L and read all strings.'
        : 'Saved, with what was learned about this bridge.';

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
  stops: 'Stop readings, as here',
  zeroing: 'Each string to its target, again and again',
  mirror: 'Mirror: as far beyond the target as it was off',
  block: 'Block, tune, take the block out, then the claw',
};

/** Turns of the claw in sixteenths: '1 and 3/16 turns out'. */
function clawWords(turns: number): string {
  const sixteenths = Math.round(Math.abs(turns) * 16);
  const whole = Math.floor(sixteenths / 16);
  const rest = sixteenths % 16;
  const divisor = [8, 4, 2].find((d) => rest % d === 0) ?? 1;
  const part = rest === 0 ? '' : `${rest / divisor}/${16 / divisor}`;
  const amount = whole === 0 ? part : part ? `${whole} and ${part}` : String(whole);
  return `${amount} turn${whole > 1 || (whole === 1 && part) ? 's' : ''} ${turns < 0 ? 'out' : 'in'}`;
}

/** A turn of the claw beyond what the change of the strings' pull gives. */
const doubtfulClawWords = (turns: number, law: number): string =>
  `${clawWords(turns)} would level it, but this change should need ${Math.abs(law) < 1 / 32 ? 'none' : clawWords(law)}. Is the block out? Is every spring in place? Enter: turn it anyway`;

/** What a stop is, in the figure that the hand follows. */
export const stopWords = (cents: number): string => (Math.abs(cents) < 0.05 ? 'stop at 0' : `stop at ${signed(cents)}`);

/** What the others do while one string is off. */
export function othersWords(coupling: Coupling, notes: readonly string[]): string {
  const low = notes.length - 1;
  const rise = riseWithout(coupling, low).filter((c) => c !== null);
  return `Take off one string at a time, or block the bridge. With the ${notes[low]} off, the others are ${Math.min(...rise).toFixed(0)} to ${Math.max(...rise).toFixed(0)} cents sharp. Do not turn them: they come back with it.`;
}

/**
 * How the coupling stands: when it settles, and when it never does.
 * @param lambda how much of a change of all strings the bridge takes back, 1 is all of it
 */
export function couplingWords(lambda: number): string {
  const said = `Raise one string, and the bridge takes back ${Math.round(100 * lambda)} % of it`;
  return lambda > 0.9 ? `${said}. Add a spring or use lighter strings, or it will hardly settle.` : `${said}.`;
}

/** What is to be done now; undefined where the figure and its stop say it. @param note the string in hand */
export function bridgeSentence(
  act: 'read' | 'set' | 'claw' | 'done' | undefined,
  note: string,
  claw: { turns: number; lawTurns: number | undefined; doubtful: boolean },
  levelSeen: boolean,
): string | undefined {
  if (act === undefined) return 'Press Enter: first every string is read';
  if (claw.doubtful) return doubtfulClawWords(claw.turns, claw.lawTurns!);
  if (act === 'claw') return `Turn both claw screws ${clawWords(claw.turns)}. Enter: done`;
  if (act === 'done')
    return levelSeen
      ? 'All strings are right. Enter: save it'
      : 'All strings are right. Level was not measured. Enter: save it';
  return act === 'read' ? `Pluck ${note}: damp the others, hand off the bridge, bar at rest` : undefined;
}
export const clawTurnedWords = (turns: number, slackened: boolean) =>
  slackened
    ? `Claw turned ${clawWords(turns)}. Bring every string near its pitch first, then pluck as told.`
    : `Claw turned ${clawWords(turns)}. Now the strings.`;
/** What goes with a turn of the claw. */
export const CLAW_CAUTION =
  'Each spring pulls 20 to 70 N. Hold the driver straight, eyes away. If a screw is hard to turn, let the strings down first and press X when it is done. If in doubt, see a repairer.';
/** A string this far above its target is let down at once, cents. */
const FAR_SHARP_CENTS = 100;
export const bridgeReadWords = (note: string, cents: number, act: 'read' | 'set') =>
  `${note} ${act === 'read' ? 'is' : 'stopped'} at ${signed(cents)}.${cents > FAR_SHARP_CENTS ? ' That is far above its target: let it down now, then read it again.' : ''}`;
/** How locking moved the strings. @param shifts cents, by string */
export const lockWords = (notes: readonly string[], shifts: readonly { cents: number }[]): string =>
  `Locking moved them: ${notes.map((n, i) => `${n} ${signed(shifts[i]!.cents)}`).join(', ')} cents. The stop readings allow for it while the nut is open.`;
/** Less than this left of a fine tuner's way, and the nut is unlocked again, cents (house estimate). */
const LITTLE_CENTS = 30;
/** What the fine tuners have left. @param rooms cents up and down, by string */
export const fineWords = (notes: readonly string[], rooms: readonly { up: number; down: number }[]): string =>
  `Fine tuners, from the middle, can still go up and down: ${notes.map((n, i) => `${n} ${rooms[i]!.up.toFixed(0)}/${rooms[i]!.down.toFixed(0)}`).join(', ')} cents (reckoned).`;
/** What to do where a fine tuner is nearly at its end; '' where none is. */
export function fineEndWords(notes: readonly string[], rooms: readonly { up: number; down: number }[]): string {
  const short = notes.filter((_, i) => Math.min(rooms[i]!.up, rooms[i]!.down) < LITTLE_CENTS);
  return short.length === 0
    ? ''
    : `${short.join(', ')}: nearly at its end. Unlock, centre it, tune by its machine head.`;
}
/** Whether the bridge itself comes back. @param bridgeCents how far off all strings are after the bar */
export const comesBackWords = ({ bridge, bridgeCents }: { bridge: boolean; bridgeCents: number }): string =>
  bridge
    ? `After the bar all strings are ${signed(bridgeCents)} cents off: knife edges, posts or springs stick. See a repairer.`
    : 'The bridge itself comes back.';
/** In how many of ten it is right after one pass. @param share 0 to 1 */
export const inOneWords = (share: number): string => `${Math.round(100 * share)} % in one`;
export const tiltWords = (degrees: number) => `Tilt ${signed(degrees)}° saved.`;
export const TOO_FEW_SPRINGS = 'These springs cannot hold these strings. Give the number of springs.';
export const BRIDGE_STOPPED = 'Stopped. What was read stays in the history.';
/** So far behind the knife edge the tilt is measured, mm. */
export const BEHIND_MM = 40;
export const LEVEL_HOW = `When the strings are in tune, only the tilt shows a wrong claw. Measure ${BEHIND_MM} mm behind the knife edge; down is negative.`;
