import { clockTime, type LifeFit, type StringLife } from '../records';
import {
  adviseRounds,
  fallWithoutHands,
  gainOfRound,
  mixtureMean,
  mixtureQuantile,
  offsetNow,
  standAhead,
} from '../settling';

const NUMBERS = ['No', 'One', 'Two', 'Three', 'Four', 'Five', 'Six', 'Seven', 'Eight', 'Nine', 'Ten'];
const MINUTE = 60000;
const HOUR_MIN = 60;
/** A round that spares less than this is not worth a pull, cents (house). */
const WORTH_CENTS = 1;
/** Said only where hands made so much of a difference, cents. */
const TOLD_CENTS = 1;

/** Nine of ten: half of what lies between the twentieth and the last but one. */
const half = (low: number, high: number) => Math.max(1, Math.round((high - low) / 2));

/**
 * What stretch rounds have taken out of a string, where it will stand untouched, what it would have fallen without them, and
 * whether another is worth it.
 * @param curtainMs the time that is asked about beside an hour on; null where none is set
 * @returns '' where it was not stretched
 */
export function roundsTold(
  { rounds, plan }: StringLife,
  { fit }: LifeFit,
  wish: { nowMs: number; curtainMs: number | null; zoneMin: number },
): string {
  if (rounds.length === 0) return '';
  const taken = rounds.reduce((sum, r) => sum + r.dropCents, 0);
  const times = [{ h: HOUR_MIN, when: 'in an hour' }];
  const curtainMin = wish.curtainMs === null ? 0 : (wish.curtainMs - wish.nowMs) / MINUTE;
  if (curtainMin > HOUR_MIN) times.push({ h: curtainMin, when: `at ${clockTime(wish.curtainMs!, wish.zoneMin)}` });
  const places = times.map(({ h, when }) => {
    const mix = standAhead(fit, h);
    const cents = Math.round(mixtureMean(mix));
    const side = cents < 0 ? ' flat' : cents > 0 ? ' sharp' : '';
    return `${Math.abs(cents)} ±${half(mixtureQuantile(mix, 0.05), mixtureQuantile(mix, 0.95))} cents${side} ${when}`;
  });
  const end = times.at(-1)!;
  const without = fallWithoutHands(fit, end.h) - offsetNow(fit).cents;
  const spared = without + mixtureMean(standAhead(fit, end.h));
  const drops = rounds.map((r) => r.dropCents);
  const next = adviseRounds(drops).next?.q50 ?? 0.6 * Math.max(0, drops.at(-1)!);
  const gain = gainOfRound(fit, next, end.h);
  const count = NUMBERS[rounds.length] ?? String(rounds.length);
  return [
    `${count} ${rounds.length === 1 ? 'round' : 'rounds'} took ${taken.toFixed(0)} cents out of ${plan.note}.`,
    `Untouched it will be ${places.join(' and ')}${spared > TOLD_CENTS ? `; without the rounds, ${without.toFixed(0)} flat` : ''}.`,
    gain >= WORTH_CENTS
      ? `Another round would spare about ${gain.toFixed(0)} ${Math.round(gain) === 1 ? 'cent' : 'cents'} by then.`
      : 'Another round would gain nothing by then.',
  ].join(' ');
}
