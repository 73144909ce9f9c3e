import { useEffect, useRef, useState } from 'react';
import {
  beatTrend,
  type BeatTrend,
  type EarStep,
  intervalWords,
  isRight,
  standStill,
  turnWords,
  unisonWay,
  type Expected,
  beatsLine,
  partialsWords,
} from '../../../core/by-ear';
import { useMoment, type Trace } from '../../guided/trace';
import { signed } from '../../parts/format';
import { useWorld } from '../../world/world';
import { clamp } from '../../../core/base';

const WIDE = 280;
const TALL = 170;
const LADDER = 118;
/** Rungs of each ladder. */
const RUNGS = 8;
const TREND_MS = 500;

/** Slower, faster or the same than half a second before. */
function useTrend(beatsHz: number | undefined): BeatTrend {
  const { clock } = useWorld();
  const before = useRef<{ atMs: number; hz: number }[]>([]);
  const [trend, setTrend] = useState<BeatTrend>('');
  useEffect(() => {
    const now = clock.elapsedMs();
    if (beatsHz === undefined) {
      before.current = [];
      setTrend('');
      return;
    }
    before.current = [...before.current.filter((b) => now - b.atMs < 2 * TREND_MS), { atMs: now, hz: beatsHz }];
    const then = before.current.find((b) => now - b.atMs > TREND_MS);
    if (then) setTrend(beatTrend(beatsHz, then.hz));
  }, [clock, beatsHz]);
  return trend;
}

/**
 * Which way a unison stands, which its beats do not tell: as both strings were read alone, where they still stand as far apart, and
 * until they came near to pure and may have passed it. @returns −1 flat, 1 sharp, 0 where nothing tells
 */
function useWay(step: EarStep, known: number | undefined, sizeCents: number | undefined): number {
  const [told, setTold] = useState<{ step: EarStep; way: number } | undefined>(undefined);
  useEffect(() => {
    if (sizeCents === undefined) return;
    const way = unisonWay(sizeCents, known);
    if (way === 0) setTold({ step, way });
    else if (way !== undefined) setTold((t) => (t?.step === step ? t : { step, way }));
  }, [step, known, sizeCents]);
  return told?.step === step ? told.way : 0;
}

/**
 * Two strings while they ring: how many beats and which way, to be read from afar; their partials as two ladders whose rungs meet, and
 * how the meeting pair swells.
 */
export function Beats({
  trace,
  step,
  expect,
  known,
}: {
  trace: Trace;
  step: EarStep;
  expect: Expected;
  /** How far the first of the step stood from the other when each was read alone, where that is sure, cents. */
  known: number | undefined;
}) {
  const moment = useMoment(trace, (m) => m.pair);
  const [p, q] = step.interval;
  const trend = useTrend(moment?.beatsHz);
  const told = useWay(step, p === q ? known : undefined, moment ? Math.abs(moment.cents) : undefined);
  if (!moment)
    return (
      <p data-testid="beats" className="text-sm text-ink2">
        The {intervalWords(step.interval)} is shown while both ring.
      </p>
    );
  // The turned string is the one that sounds in the step; its way is not heard in a unison.
  const unison = p === q && told === 0;
  const off = (told === 0 ? moment.cents : told * Math.abs(moment.cents)) - expect.expectCents;
  const still = standStill(moment.beatsHz);
  const wantedHz = Math.abs(q * moment.bHz) * (Math.abs(expect.expectCents) * (Math.LN2 / 1200));
  const way = turnWords(unison, off, still, trend);
  const top = Math.log2(RUNGS * Math.max(moment.aHz, moment.bHz));
  const bottom = Math.log2(Math.min(moment.aHz, moment.bHz)) - 0.15;
  const y = (hz: number) => LADDER - 4 - ((Math.log2(hz) - bottom) / (top - bottom)) * (LADDER - 10);
  const rungs = (hz: number) => Array.from({ length: RUNGS }, (_, i) => hz * (i + 1)).filter((f) => Math.log2(f) < top);
  const tilt = clamp(off * 1.2, -14, 14);
  const [fa, fb] = [p * moment.aHz, q * moment.bHz];
  const swell = moment.swell.map((s, i) => [(i / (moment.swell.length - 1)) * WIDE, s * 20] as const);
  const middle = LADDER + 28;
  return (
    <div data-testid="beats">
      <p className="flex items-baseline justify-between gap-2 whitespace-nowrap">
        <span className="figure text-[44px] leading-none font-bold" data-testid="beats-figure">
          {moment.beatsHz.toFixed(1)}
        </span>
        <span className="text-xl font-semibold" data-testid="beats-way">
          {way}
        </span>
      </p>
      <p className="pb-1 text-xs text-ink2">
        {beatsLine(wantedHz, unison ? Math.abs(moment.cents).toFixed(1) : signed(off))}
      </p>
      <svg
        viewBox={`0 0 ${WIDE} ${TALL}`}
        className="block w-full"
        role="img"
        aria-label={partialsWords(moment.beatsHz, intervalWords(step.interval))}
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
          stroke={isRight(off) || (unison && still) ? 'var(--ink)' : 'var(--rust)'}
          strokeWidth={3}
          strokeDasharray={standStill(Math.abs(fa - fb)) ? undefined : '4 3'}
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
