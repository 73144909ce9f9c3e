import { sampleStandardDeviation } from 'simple-statistics';
import { cents } from '../music';
import { fretsOf } from './fret-places';
import type { AdjustmentRecord, TouchRecord } from '../log';
import type { FretReading } from './frets';
import { octaveOf, type OctaveErrors } from './octave';
import { learnResponse, type BridgeMove, type BridgeResponse } from './response';

/** One string's readings of one pass, and what they say. */
export interface OctavePass {
  passId: string;
  atMs: number;
  errors: OctaveErrors;
  /** Standard error of one reading, cents; the scatter of its plucks where that is more. */
  readingSigma: number;
  frets: FretReading[];
  /** Each place was plucked once only. */
  once: boolean;
}

/** Least standard error of a reading, cents (house estimate). */
const LEAST_SIGMA = 0.1;
/** Two touches of one hand on one string differ by about this, standard deviation, cents: of one touch alone it is not known (house estimate). */
const TOUCH_CENTS = 0.35;

/** Open string at a moment: between the open readings before and after it, so that its drift is taken out. */
function openAt(opens: readonly TouchRecord[], atMs: number): number {
  const before = opens.findLast((o) => o.atMs <= atMs) ?? opens[0]!;
  const after = opens.find((o) => o.atMs >= atMs) ?? before;
  if (after.atMs === before.atMs) return before.frequencyHz;
  const share = (atMs - before.atMs) / (after.atMs - before.atMs);
  return before.frequencyHz * Math.pow(after.frequencyHz / before.frequencyHz, share);
}

/** The passes of one string that have an open string and its 12th fret (or, without frets, its harmonic), oldest first. */
export function octavePasses(touches: readonly TouchRecord[], instrumentId: string, stringId: string): OctavePass[] {
  const own = touches.filter((t) => t.instrumentId === instrumentId && t.stringId === stringId);
  return [...new Set(own.map((t) => t.passId))].flatMap((passId): OctavePass[] => {
    const all = own.filter((t) => t.passId === passId);
    const opens = all.filter((t) => t.touch === 'open');
    const harmonic = all.findLast((t) => t.touch === 'harmonic');
    const fret12 = all.findLast((t) => t.touch === 'fret' && t.fret === 12);
    const main = fret12 ?? harmonic;
    if (opens.length === 0 || !main) return [];
    const openHz = openAt(opens, main.atMs);
    // Carried to the moment of the main reading.
    const harmonicHz = harmonic && (harmonic.frequencyHz * openHz) / openAt(opens, harmonic.atMs);
    const inharmonicity = opens.find((o) => typeof o.inharmonicity === 'number')?.inharmonicity ?? undefined;
    const once = main.scatterCents === 0 && (harmonic?.scatterCents ?? 0) === 0;
    const heard = Math.max(LEAST_SIGMA, main.sigmaCents, opens[0]!.sigmaCents);
    const sigmaCents = once ? Math.hypot(heard, TOUCH_CENTS) : heard;
    return [
      {
        passId,
        atMs: main.atMs,
        errors: octaveOf({
          openHz,
          fret12Hz: main.frequencyHz,
          harmonic12Hz: harmonicHz,
          inharmonicity,
          sigmaCents,
        }),
        readingSigma: Math.max(sigmaCents, main.scatterCents / 2),
        frets: fretsOf(all, (atMs) => openAt(opens, atMs), sigmaCents),
        once,
      },
    ];
  });
}

/** What this saddle, or this string over a loose bridge, has shown of its response to moves. */
export function responseOf(
  passes: readonly OctavePass[],
  adjustments: readonly AdjustmentRecord[],
  lengthMm: number,
  moveOf: (adjustment: AdjustmentRecord) => number,
): BridgeResponse {
  const moves = passes.slice(1).flatMap((after, i): BridgeMove[] => {
    const before = passes[i]!;
    const between = adjustments.filter((a) => a.atMs > before.atMs && a.atMs < after.atMs);
    const moveMm = between.reduce((sum, a) => sum + moveOf(a), 0);
    if (Math.abs(moveMm) < 0.05) return [];
    return [
      {
        moveMm,
        beforeCents: before.errors.errorCents,
        afterCents: after.errors.errorCents,
        sigmaCents: Math.max(before.readingSigma, after.readingSigma),
      },
    ];
  });
  return learnResponse(lengthMm, moves);
}

/** Median of plucks with its standard error and their spread; undefined when they differ too much to be one reading. */
export function medianOfPlucks(
  plucks: readonly { frequencyHz: number; sigmaCents: number }[],
  mostCents = 1,
): { frequencyHz: number; sigmaCents: number; scatterCents: number } | undefined {
  const sorted = [...plucks].sort((a, b) => a.frequencyHz - b.frequencyHz);
  const low = sorted[0]!;
  const high = sorted[sorted.length - 1]!;
  const scatterCents = cents(high.frequencyHz, low.frequencyHz);
  const above = sorted.map((p) => cents(p.frequencyHz, low.frequencyHz));
  if (sorted.length === 2 && scatterCents > mostCents) return undefined;
  const own = sorted.length > 2 ? sampleStandardDeviation(above) : scatterCents / Math.SQRT2;
  const each = Math.max(own, ...sorted.map((p) => p.sigmaCents));
  return {
    frequencyHz: sorted[Math.floor((sorted.length - 1) / 2)]!.frequencyHz,
    sigmaCents: each / Math.sqrt(sorted.length),
    scatterCents,
  };
}
