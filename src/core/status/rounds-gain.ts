import { inCents } from '../music';
import { clockTime, type Zone, MINUTE, NORMAL_Q90, NORMAL_Q95 } from '../base';
import type { LifeFit } from './fits';
import type { StringLife } from '../log';
import { type SettlingFit, adviseRounds, fallWithoutHands, gainOfRound, offsetNow, standAt } from '../settling';

const NUMBERS = ['No', 'One', 'Two', 'Three', 'Four', 'Five', 'Six', 'Seven', 'Eight', 'Nine', 'Ten'];
const HOUR_MIN = 60;
/** A round that spares less than this is not worth a pull, cents (house). */
const WORTH_CENTS = 1;
/** Said only where hands made so much of a difference, cents. */
const TOLD_CENTS = 1;

/** Nine of ten: half of what lies between the twentieth and the last but one. */
const half = (low: number, high: number) => Math.max(1, Math.round((high - low) / 2));

/** What another round would spare of the fall by a time. */
export interface RoundsGain {
  cents: number;
  sdCents: number;
  /** Nine of ten lie between, cents. */
  interval: [number, number];
  untilMs: number;
  worth: boolean;
}

/** The last moment that rounds are for: the show, where that is more than an hour off, else in an hour; min. */
const endMin = (nowMs: number, curtainMs: number | null): number =>
  Math.max(HOUR_MIN, curtainMs === null ? 0 : (curtainMs - nowMs) / MINUTE);

/** What another stretch round would spare by the show, or within an hour; undefined where it was not stretched. */
export function roundsGain(
  { rounds }: StringLife,
  fit: SettlingFit,
  nowMs: number,
  curtainMs: number | null,
): RoundsGain | undefined {
  const drops = rounds.map((r) => r.dropCents);
  if (drops.length === 0) return undefined;
  const hMin = endMin(nowMs, curtainMs);
  const { next } = adviseRounds(drops);
  const usual = 0.6 * Math.max(0, drops.at(-1)!);
  const [low, middle, high] = (next ? [next.q10, next.q50, next.q90] : [0.5 * usual, usual, 1.5 * usual]).map((d) =>
    gainOfRound(fit, d!, hMin),
  ) as [number, number, number];
  const sdCents = Math.hypot((high - low) / 2 / NORMAL_Q90, SHARE_SD * middle, LEAST_SD_CENTS);
  return {
    cents: middle,
    sdCents,
    interval: [middle - NORMAL_Q95 * sdCents, middle + NORMAL_Q95 * sdCents],
    untilMs: nowMs + hMin * MINUTE,
    worth: middle >= WORTH_CENTS,
  };
}
/** How much of a drop is ageing is known to this share of it (house estimate). */
const SHARE_SD = 0.7;
/** No pull is like the one before: what it spares differs by this in any case, cents (house estimate). */
const LEAST_SD_CENTS = 0.8;

/** What another round is worth, in a sentence. @param by when: 'then', a clock time */
export const gainWords = ({ worth, cents }: RoundsGain, round: string, by: string): string =>
  worth ? `${round} would spare about ${inCents(cents)} by ${by}.` : `${round} would gain nothing by ${by}.`;

/**
 * What stretch rounds have taken out of a string, where it will stand untouched, what it would have fallen without them, and
 * whether another is worth it.
 * @param curtainMs the time that is asked about beside an hour on; null where none is set
 * @returns '' where it was not stretched
 */
export function roundsTold(
  life: StringLife,
  { fit }: LifeFit,
  wish: { nowMs: number; curtainMs: number | null; zone: Zone },
): string {
  const { rounds, plan } = life;
  if (rounds.length === 0) return '';
  const taken = rounds.reduce((sum, r) => sum + r.dropCents, 0);
  const times = [{ h: HOUR_MIN, when: 'in an hour' }];
  const curtainMin = endMin(wish.nowMs, wish.curtainMs);
  if (curtainMin > HOUR_MIN) times.push({ h: curtainMin, when: `at ${clockTime(wish.curtainMs!, wish.zone)}` });
  const places = times.map(({ h, when }) => {
    const { mean, q05, q95 } = standAt(fit, h);
    const cents = Math.round(mean);
    const side = cents < 0 ? ' flat' : cents > 0 ? ' sharp' : '';
    return `${Math.abs(cents)} ±${half(q05, q95)} cents${side} ${when}`;
  });
  const end = times.at(-1)!;
  const without = fallWithoutHands(fit, end.h) - offsetNow(fit).cents;
  const spared = without + standAt(fit, end.h).mean;
  const gain = roundsGain(life, fit, wish.nowMs, wish.curtainMs)!;
  const count = NUMBERS[rounds.length] ?? String(rounds.length);
  return [
    `${count} ${rounds.length === 1 ? 'round' : 'rounds'} took ${taken.toFixed(0)} cents out of ${plan.note}.`,
    `Untouched it will be ${places.join(' and ')}${spared > TOLD_CENTS ? `; without the rounds, ${without.toFixed(0)} flat` : ''}.`,
    gainWords(gain, 'Another round', 'then'),
  ].join(' ');
}
