import { ratioOfCents } from '../music';
import type { EarStep, EarSound } from './ear';
import { solveNet, type Alone, type Between, type Net } from './net';
import { intervalWords, placeWords } from './words';
import { octavePasses } from '../octave';
import type { CheckpointRecord, InstrumentLife, JudgementRecord, ReadingRecord, TouchRecord } from '../log';
import { MINUTE } from '../base';

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
/** What a step of a round should sound like as its strings stand. @param errors of each string by its id, cents */
export function expected(step: EarStep, ids: readonly string[], errors: ReadonlyMap<string, number>): Expected {
  const of = (s: EarSound) => ('fret' in s ? frettedError(errors.get(ids[s.string - 1]!) ?? 0, s.fret) : 0);
  const fretsCents = of(step.sound) - of(step.against);
  const worst = [step.sound, step.against].find((s) => Math.abs(of(s)) > INSTRUMENT_CENTS);
  return {
    expectCents: step.expectCents + fretsCents,
    fretsCents,
    instrument: worst && ids[worst.string - 1],
  };
}

/** Where a sound stands above its open string, a ratio. */
export const soundRatio = (s: EarSound): number => ('fret' in s ? ratioOfCents(100 * s.fret) : s.harmonic.partial);

/** A round of checkpoints put together. */
export interface CheckedNet extends Net {
  passId: string;
  atMs: number;
  /** As they came. */
  checkpoints: CheckpointRecord[];
  /** Indices of the strings that were read alone; their observations come after the checkpoints'. */
  singles: number[];
  /** Index of the string that the others are counted from. */
  anchor: number;
}

/** However steady it is, two strings sounded again stand this far from what they did, cents (house estimate). */
const LEAST_SIGMA = 0.3;
/** A string that was read alone so long before or after the round stands there still, ms (house estimate). */
const FRESH_MS = 20 * MINUTE;

/** What strings read alone say of a stretch of time, in order of strings: each its newest reading, in a check or a round by ear. */
export const readAlone = (
  { record, strings }: Pick<InstrumentLife, 'record' | 'strings'>,
  judgements: readonly JudgementRecord[],
  fromMs: number,
  toMs: number,
): (Alone | undefined)[] =>
  strings.map(({ plan: { stringId }, readings }, i) => {
    const judged = judgements.filter((j) => j.instrumentId === record.instrumentId && j.stringId === stringId);
    const newest = [...readings, ...judged]
      .filter((r) => r.atMs > fromMs - FRESH_MS && r.atMs < toMs + FRESH_MS)
      .reduce<ReadingRecord | JudgementRecord | undefined>((a, b) => (a && a.atMs > b.atMs ? a : b), undefined);
    return newest && { string: i + 1, cents: newest.cents, sigmaCents: Math.hypot(LEAST_SIGMA, newest.sigmaCents) };
  });

/** How far the two strings of a step stood apart when each was read alone, cents; undefined where that tells no way for sure. */
export function apartAlone({ sound, against }: EarStep, alone: readonly (Alone | undefined)[]): number | undefined {
  const [a, b] = [alone[sound.string - 1], alone[against.string - 1]];
  if (!a || !b) return undefined;
  const apart = a.cents - b.cents;
  return Math.abs(apart) > 2 * Math.hypot(a.sigmaCents, b.sigmaCents) ? apart : undefined;
}

/**
 * The last round of checkpoints of an instrument as a net: where every string stands from its anchor, and which reading disagrees.
 * A unison tells no way: what the strings read alone, and all the others, decide it.
 * @param judgements rounds by ear, in which strings were read alone
 */
export function netOf(
  all: readonly CheckpointRecord[],
  { record, strings }: InstrumentLife,
  judgements: readonly JudgementRecord[] = [],
): CheckedNet | undefined {
  const own = all.filter((c) => c.instrumentId === record.instrumentId);
  const last = own.at(-1);
  if (!last) return undefined;
  const index = (stringId: string) => strings.findIndex((s) => s.plan.stringId === stringId);
  const checkpoints = own.filter((c) => c.passId === last.passId && index(c.stringId) >= 0 && index(c.againstId) >= 0);
  const anchor = index(last.anchorId);
  if (anchor < 0) return undefined;
  const alone = readAlone({ record, strings }, judgements, checkpoints[0]!.atMs, last.atMs);
  const pairs = checkpoints.map((c): Between => {
    const [p, q] = c.interval;
    return {
      a: index(c.stringId) + 1,
      b: index(c.againstId) + 1,
      cents: c.cents - c.expectCents,
      sigmaCents: Math.hypot(LEAST_SIGMA, c.sigmaCents),
      ...(p === q ? { orCents: -c.cents - c.expectCents } : {}),
    };
  });
  // What was read alone is counted from the anchor: it helps where that was read alone as well.
  const from = alone[anchor];
  const singles = alone.flatMap((o) =>
    o && from && o !== from
      ? [{ ...o, cents: o.cents - from.cents, sigmaCents: Math.hypot(o.sigmaCents, from.sigmaCents) }]
      : [],
  );
  const net = solveNet(strings.length, { string: anchor + 1, cents: 0 }, [...pairs, ...singles]);
  return {
    ...net,
    passId: last.passId,
    atMs: last.atMs,
    checkpoints,
    singles: singles.map((o) => o.string - 1),
    anchor,
  };
}

/** What the net says, a sentence each: what to sound again, what nothing decides, what to move. @param tolerance cents */
export function netTold(
  net: CheckedNet,
  notes: readonly string[],
  ids: readonly string[],
  tolerance: number,
): string[] {
  const at = (id: string) => ids.indexOf(id);
  const names = net.checkpoints.map((c) => {
    const [a, b] = [at(c.stringId), at(c.againstId)];
    return c.places
      ? `${placeWords(notes[a]!, c.places[0])} with ${placeWords(notes[b]!, c.places[1])}`
      : `${notes[a]} with ${notes[b]} (${intervalWords(c.interval)})`;
  });
  const named = (k: number) => names[k] ?? `${notes[net.singles[k - names.length]!]} alone`;
  const tied = net.offsets.filter((o) => o !== null).length - 1;
  const unsure = net.undecided.map((k) => net.checkpoints[k]!).flatMap((c) => [at(c.stringId), at(c.againstId)]);
  const moves = net.offsets.flatMap((o, i) =>
    o !== null && i !== net.anchor && Math.abs(o) > tolerance && Math.abs(o) > net.sigma[i]!
      ? [`${notes[i]} ${o > 0 ? 'down' : 'up'} ${Math.abs(o).toFixed(1)}`]
      : [],
  );
  const open = [...new Set(unsure)].filter((i) => i !== net.anchor && !net.singles.includes(i)).map((i) => notes[i]);
  return [
    ...(net.odd
      ? [`${named(net.suspect[0]!)} does not fit the rest. Sound it again.`]
      : net.suspect.length > 0
        ? [`They do not agree yet. Sound these again: ${net.suspect.map(named).join('; ')}.`]
        : net.checkpoints.length + net.singles.length > tied
          ? ['All of them agree.']
          : ['Each string rests on one reading. Nothing checks it yet.']),
    ...(open.length > 0
      ? [
          `It is not clear yet whether ${open.join(' and ')} ${open.length > 1 ? 'are' : 'is'} sharp or flat. Pluck ${open.length > 1 ? 'each' : 'it'} alone in a check.`,
        ]
      : []),
    moves.length > 0
      ? `Move ${moves.join(', ')} cents.`
      : open.length > 0 || net.suspect.length > 0
        ? ''
        : `Every string is within ${tolerance} cents.`,
  ].filter((s) => s !== '');
}
