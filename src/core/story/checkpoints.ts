import { ratioOfCents } from '../music';
import { solveNet, type EarStep, type Net, type Sound } from '../intervals';
import { octavePasses } from '../octave';
import type { CheckpointRecord, InstrumentLife, TouchRecord } from '../records';

/** A fret further off than this at the octave is the instrument, not the tuning, cents (house estimate). */
const INSTRUMENT_CENTS = 4;

/** How far each string's 12th fret stood from the octave when it was last read, cents; missing where it was not. */
export function octaveErrors(
  touches: readonly TouchRecord[],
  { record, strings }: InstrumentLife,
): Map<string, number> {
  return new Map(
    strings.flatMap(({ plan: { stringId }, strungMs }) => {
      const last = octavePasses(touches, record.instrumentId, stringId).at(-1);
      return last && last.atMs >= (strungMs ?? 0) ? [[stringId, last.errors.errorCents] as const] : [];
    }),
  );
}

/**
 * How far a fretted note stands from where it should by a saddle that is off: the shift of length weighs the more the shorter the
 * string, (2^(fret/12) − 1) of the octave's (Mersenne).
 */
const frettedError = (octaveCents: number, fret: number): number => octaveCents * (ratioOfCents(100 * fret) - 1);

/** A step's expectation with what its frets are known to be off, and whether they are so far off that no tuning makes it agree. */
export interface Expected {
  expectCents: number;
  /** What the frets add, cents. */
  fretsCents: number;
  /** The string whose octave is to be looked at first. */
  instrument: string | undefined;
}
export function expected(step: EarStep, ids: readonly string[], errors: ReadonlyMap<string, number>): Expected {
  const of = (s: Sound) => ('fret' in s ? frettedError(errors.get(ids[s.string - 1]!) ?? 0, s.fret) : 0);
  const fretsCents = of(step.sound) - of(step.against);
  const worst = [step.sound, step.against].find((s) => Math.abs(of(s)) > INSTRUMENT_CENTS);
  return {
    expectCents: step.expectCents + fretsCents,
    fretsCents,
    instrument: worst && ids[worst.string - 1],
  };
}

/** Where a sound stands above its open string, a ratio. */
export const soundRatio = (s: Sound): number => ('fret' in s ? ratioOfCents(100 * s.fret) : s.harmonic.partial);

/** A round of checkpoints put together. */
export interface CheckedNet extends Net {
  passId: string;
  atMs: number;
  /** As they came. */
  checkpoints: CheckpointRecord[];
  /** Index of the string that the others are counted from. */
  anchor: number;
}

/** However steady it is, two strings sounded again stand this far from what they did, cents (house estimate). */
const LEAST_SIGMA = 0.3;

/**
 * The last round of checkpoints of an instrument as a net: where every string stands from its anchor, and which reading disagrees.
 * In a unison the way is not heard: it is taken as the strings were last read.
 */
export function netOf(all: readonly CheckpointRecord[], { record, strings }: InstrumentLife): CheckedNet | undefined {
  const own = all.filter((c) => c.instrumentId === record.instrumentId);
  const last = own.at(-1);
  if (!last) return undefined;
  const index = (stringId: string) => strings.findIndex((s) => s.plan.stringId === stringId);
  const checkpoints = own.filter((c) => c.passId === last.passId && index(c.stringId) >= 0 && index(c.againstId) >= 0);
  const anchor = index(last.anchorId);
  if (anchor < 0) return undefined;
  const known = (stringId: string) => strings[index(stringId)]!.readings.at(-1)?.cents ?? 0;
  const observations = checkpoints.map((c) => {
    const read = known(c.stringId) - known(c.againstId);
    const [p, q] = c.interval;
    const ways = p === q ? [c.cents, -c.cents] : [c.cents];
    const off = ways.map((w) => w - c.expectCents).reduce((a, b) => (Math.abs(b - read) < Math.abs(a - read) ? b : a));
    return {
      a: index(c.stringId) + 1,
      b: index(c.againstId) + 1,
      cents: off,
      sigmaCents: Math.hypot(LEAST_SIGMA, c.sigmaCents),
    };
  });
  return {
    ...solveNet(strings.length, { string: anchor + 1, cents: 0 }, observations),
    passId: last.passId,
    atMs: last.atMs,
    checkpoints,
    anchor,
  };
}
