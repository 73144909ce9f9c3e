import { type Zone, MINUTE } from '../../../core/base';
import { clockTime } from '../../parts/format';
import type { Show } from '../../../core/plan';

/** What the house waits for, and how long. */
export function Countdown({ show, nowMs, zone }: { show: Show; nowMs: number; zone: Zone }) {
  const { curtainMs, minutes, intervalMin } = show;
  const marks: [string, number][] = [
    ['to the curtain', curtainMs],
    ...(intervalMin === null ? [] : [['to the interval', curtainMs + intervalMin * MINUTE] as [string, number]]),
    ['to the end', curtainMs + minutes * MINUTE],
  ];
  const [words, atMs] = marks.find(([, at]) => at > nowMs) ?? ['past the end', nowMs];
  return (
    <p className="figure flex flex-wrap items-baseline justify-between gap-4 text-2xl text-ink2">
      <span>{clockTime(nowMs, zone)}</span>
      <span>
        <b className="text-ink" data-testid="countdown">
          {timeLeft(atMs - nowMs)}
        </b>{' '}
        {words}
      </span>
    </p>
  );
}

/** Time left: hours and minutes, below an hour minutes and seconds. */
export function timeLeft(ms: number): string {
  const s = Math.max(0, Math.round(ms / 1000));
  const two = (n: number) => String(n).padStart(2, '0');
  return s >= 3600
    ? `${Math.floor(s / 3600)} h ${two(Math.floor((s % 3600) / 60))}`
    : `${Math.floor(s / 60)}:${two(s % 60)}`;
}
