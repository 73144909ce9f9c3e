import type { HandEvent } from './history';
import type { SettlingPrior } from './materials';
import type { CreepShape } from './shapes';

/** How much of what a hand took out of a string was ageing; the rest was slack that is gone. Prior weights: house, from the bench. */
export const AGEING_SHARES: [share: number, weight: number][] = [
  [0, 0.25],
  [1 / 3, 0.25],
  [2 / 3, 0.25],
  [1, 0.25],
];

/** Hands age a string by no more than this at a time, min (house: a pull of seconds at half again its tension). */
const MOST_AGED_MIN = 20160;

const LEAST_AGED_MIN = 0.05;

/** What hands put off and comes back: mean and sd, cents, for strings that creep much and for steel (house estimates). */
const PUT_OFF: Record<HandEvent['kind'], { mean: number; sd: number; steel: { mean: number; sd: number } }> = {
  stretch: { mean: -1.5, sd: 1.5, steel: { mean: -0.1, sd: 0.3 } },
  warm: { mean: -12, sd: 15, steel: { mean: -15, sd: 15 } },
  play: { mean: -2, sd: 3, steel: { mean: -3, sd: 3 } },
};

/** What a hand puts off and comes back by itself, cents. */
export const putOff = (kind: HandEvent['kind'], { steel }: SettlingPrior): { mean: number; sd: number } =>
  steel ? PUT_OFF[kind].steel : PUT_OFF[kind];

/** Where no reading shows it: minutes of age that a pull adds, or a minute of warmth or playing, for the whole share (house). */
const UNREAD_MIN: Record<HandEvent['kind'], number> = { stretch: 20, warm: 20, play: 0.5 };

/** Steel hardly minds warmth. */
const STEEL_WARM = 0.05;

/** Less than this is not looked for in a reading, cents. */
const LEAST_TAKEN = 0.2;

/**
 * Minutes of age that took so much out of a string: the creep law on, until it has fallen by that.
 * @param taken cents by ageing; undefined where it was not read
 * @param slope cents a unit of the clock
 * @param ageMin how old the string is by what it has been through
 */
export function minutesOfAge(
  taken: number | undefined,
  slope: number,
  { f }: CreepShape,
  ageMin: number,
  { event, share, prior }: { event: HandEvent; share: number; prior: SettlingPrior },
): number {
  if (share === 0) return 0;
  if (taken === undefined) {
    const usual = UNREAD_MIN[event.kind] * ('minutes' in event ? event.minutes : 1);
    return share * usual * (event.kind === 'warm' && prior.steel ? STEEL_WARM : 1);
  }
  if (!(taken > LEAST_TAKEN) || !(slope > 0)) return 0;
  const goal = f(ageMin) + taken / slope;
  if (f(ageMin + MOST_AGED_MIN) <= goal) return MOST_AGED_MIN;
  let low = Math.log(LEAST_AGED_MIN);
  let high = Math.log(MOST_AGED_MIN);
  for (let i = 0; i < 12; i++) {
    const middle = 0.5 * (low + high);
    if (f(ageMin + Math.exp(middle)) < goal) low = middle;
    else high = middle;
  }
  return Math.exp(0.5 * (low + high));
}
