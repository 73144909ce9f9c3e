import { useEffect, useRef, useState } from 'react';
import type { EarStep } from '../../../core/intervals';
import type { Expected } from '../../../core/story';
import { useMoment, type Trace } from '../../listening/trace';
import { signed } from '../../parts/format';
import { useWorld } from '../../world/world';
import { intervalWords } from './words';

const WIDE = 280;
const TALL = 170;
const LADDER = 118;
/** Rungs of each ladder. */
const RUNGS = 8;
/** Beats this few stand still, a second; a change of less is none. */
const STILL_HZ = 0.25;
const CHANGE_HZ = 0.12;
const TREND_MS = 500;

/** Slower, faster or the same than half a second before. */
function useTrend(beatsHz: number | undefined): 'slower' | 'faster' | '' {
  const { clock } = useWorld();
  const before = useRef<{ atMs: number; hz: number }[]>([]);
  const [trend, setTrend] = useState<'slower' | 'faster' | ''>('');
  useEffect(() => {
    const now = clock.elapsedMs();
    if (beatsHz === undefined) {
      before.current = [];
      setTrend('');
      return;
    }
    before.current = [...before.current.filter((b) => now - b.atMs < 2 * TREND_MS), { atMs: now, hz: beatsHz }];
    const then = before.current.find((b) => now - b.atMs > TREND_MS);
    if (!then) return;
    const change = beatsHz - then.hz;
    setTrend(Math.abs(change) < CHANGE_HZ ? '' : change < 0 ? 'slower' : 'faster');
  }, [clock, beatsHz]);
  return trend;
}

/**
 * Two strings while they ring: how many beats and which way, to be read from afar; their partials as two ladders whose rungs meet, and
 * how the meeting pair swells.
 */
export function Beats({ trace, step, expect }: { trace: Trace; step: EarStep; expect: Expected }) {
  const moment = useMoment(trace, (m) => m.pair);
  const [p, q] = step.interval;
  const trend = useTrend(moment?.beatsHz);
  if (!moment)
    return (
      <p data-testid="beats" className="text-sm text-ink2">
        The {intervalWords(step.interval)} is shown while both ring.
      </p>
    );
  // The turned string is the one that sounds in the step; its way is not heard in a unison.
  const off = moment.cents - expect.expectCents;
  const unison = p === q;
  const still = moment.beatsHz < STILL_HZ;
  const wantedHz = Math.abs(q * moment.bHz) * (Math.abs(expect.expectCents) * (Math.LN2 / 1200));
  const way = unison
    ? still
      ? 'still'
      : trend || 'turn: slower is right'
    : Math.abs(off) < 1
      ? 'right'
      : `${off > 0 ? '↓ down' : '↑ up'}${trend ? `, ${trend}` : ''}`;
  const top = Math.log2(RUNGS * Math.max(moment.aHz, moment.bHz));
  const bottom = Math.log2(Math.min(moment.aHz, moment.bHz)) - 0.15;
  const y = (hz: number) => LADDER - 4 - ((Math.log2(hz) - bottom) / (top - bottom)) * (LADDER - 10);
  const rungs = (hz: number) => Array.from({ length: RUNGS }, (_, i) => hz * (i + 1)).filter((f) => Math.log2(f) < top);
  const tilt = Math.max(-14, Math.min(14, off * 1.2));
  const [fa, fb] = [p * moment.aHz, q * moment.bHz];
  const swell = moment.swell.map((s, i) => [(i / (moment.swell.length - 1)) * WIDE, s * 20] as const);
  const middle = LADDER + 28;
  return (
    <div data-testid="beats">
      <p className="flex items-baseline justify-between">
        <span className="figure text-[44px] leading-none font-bold" data-testid="beats-figure">
          {moment.beatsHz.toFixed(1)}
        </span>
        <span className="text-2xl font-semibold" data-testid="beats-way">
          {way}
        </span>
      </p>
      <p className="pb-1 text-xs text-ink2">
        beats a second{wantedHz > 0.05 && `, ${wantedHz.toFixed(1)} where it is right`} ·{' '}
        <span className="figure">{unison ? `${Math.abs(moment.cents).toFixed(1)}` : signed(off)}</span> cents
      </p>
      <svg
        viewBox={`0 0 ${WIDE} ${TALL}`}
        className="block w-full"
        role="img"
        aria-label={`Partials of both strings: ${moment.beatsHz.toFixed(1)} beats a second where the ${intervalWords(step.interval)} meets`}
      >
        <rect width={WIDE} height={LADDER} fill="var(--paper)" />
        {rungs(moment.aHz).map((f) => (
          <path key={`a${f}`} d={`M24 ${y(f)}H120`} stroke="var(--ink2)" strokeWidth={2} />
        ))}
        {rungs(moment.bHz).map((f) => (
          <path key={`b${f}`} d={`M160 ${y(f)}H256`} stroke="var(--deep)" strokeWidth={2} />
        ))}
        <path d={`M24 ${y(fa)}H120`} stroke="var(--ink)" strokeWidth={4} />
        <path d={`M160 ${y(fa) - tilt}H256`} stroke="var(--deep)" strokeWidth={4} />
        <path
          d={`M120 ${y(fa)}L160 ${y(fa) - tilt}`}
          stroke={Math.abs(off) < 1 || (unison && still) ? 'var(--ink)' : 'var(--rust)'}
          strokeWidth={3}
          strokeDasharray={Math.abs(fa - fb) < STILL_HZ ? undefined : '4 3'}
        />
        <rect y={LADDER + 4} width={WIDE} height={TALL - LADDER - 4} fill="var(--water)" opacity={0.6} />
        <path
          d={`M${swell.map(([x, s]) => `${x.toFixed(1)} ${(middle - s).toFixed(1)}`).join('L')}L${[...swell]
            .reverse()
            .map(([x, s]) => `${x.toFixed(1)} ${(middle + s).toFixed(1)}`)
            .join('L')}Z`}
          fill="var(--deep)"
          opacity={0.85}
        />
      </svg>
    </div>
  );
}
