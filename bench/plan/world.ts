/** Show days whose strings obey laws that are not the estimator's, and hands that read and turn with errors. */
import { RECORD_VERSION, type LogRecord, type ReadingRecord } from '../../src/core/log';
import { SETTLES_AS, type StringMaterial } from '../../src/core/strings';
import { randomFrom, type Random } from '../../src/core/simulate';
import { logBetween, trueString, type TrueString } from '../forecast/truth';
import { MINUTE, DAY } from '../../src/core/base';
import { TOLERANCE_CENTS } from '../../src/core/check';

export const SHOW_MIN = 90;
const A4 = 440;
/** A hand takes so long a string to read it, and again to bring it up, min. */
const HAND_MIN = 0.3;
const PLUCK_CENTS = 0.4;
export const SETS: StringMaterial[][] = [
  ['plain-nylon', 'plain-nylon', 'plain-nylon', 'wound-nylon', 'wound-nylon', 'wound-nylon'],
  [
    'plain-steel',
    'plain-steel',
    'wound-steel-nickel',
    'wound-steel-nickel',
    'wound-steel-nickel',
    'wound-steel-nickel',
  ],
  ['gut', 'gut', 'wound-nylon', 'wound-nylon'],
  ['fluorocarbon', 'fluorocarbon', 'wound-nylon', 'wound-nylon', 'wound-nylon'],
  ['synthetic-bowed', 'synthetic-bowed', 'synthetic-bowed', 'plain-steel'],
];
export const NOTES = ['A4', 'E4', 'C4', 'G3', 'D3', 'A2'];
/** Seven laws of creep, slack that is given back after each bring-up, and creep that comes in steps. */
export const LAWS = 9;

export interface Played {
  instrumentId: string;
  stringId: string;
  strungMs: number;
  truth: TrueString;
}

export interface ShowDay {
  curtainMs: number;
  fromMs: number;
  strings: Played[];
  r: Random;
  records: LogRecord[];
}

/** Winding that gives back a share of every bring-up within the hour. */
function slack(r: Random, inner: TrueString): TrueString {
  const share = r.between(0.04, 0.2);
  const time = logBetween(r, 5, 40);
  const ups: { t: number; size: number }[] = [];
  let base = 0;
  const given = (t: number) =>
    ups.reduce((s, u) => s + u.size * share * (1 - Math.exp(-Math.max(0, t - u.t) / time)), 0);
  const centsAt = (t: number) => inner.centsAt(t) - given(t) + base;
  return {
    ...inner,
    centsAt,
    bringUp(t) {
      const flat = Math.max(0, -centsAt(t));
      inner.bringUp(t);
      base = given(t);
      ups.push({ t, size: Math.min(80, flat) });
    },
  };
}

/** A nut that holds and lets go: the string stays until it is a step's worth behind. */
function steps(r: Random, inner: TrueString): TrueString {
  const step = r.between(0.6, 2.5);
  let shown: number | undefined;
  const centsAt = (t: number) => {
    const free = inner.centsAt(t);
    if (shown === undefined || Math.abs(free - shown) > step) shown = free;
    return shown;
  };
  return {
    ...inner,
    centsAt,
    bringUp(t) {
      inner.bringUp(t);
      shown = inner.centsAt(t);
    },
  };
}

export function stringOf(
  r: Random,
  material: StringMaterial,
  endMin: number,
  law: number,
  room: (t: number) => number,
): TrueString {
  const inner = trueString(r, SETTLES_AS[material], endMin, law < 7 ? law : Math.floor(r.uniform() * 7), room);
  return law === 7 ? slack(r, inner) : law === 8 ? steps(r, inner) : inner;
}

/** One show: one to three instruments, strung 2 to 30 h before and read as left then. */
export function showDay(seed: number, show: number): ShowDay {
  const r = randomFrom(seed * 7919 + show * 104729);
  const curtainMs = Date.UTC(2026, 5, 12, 17, 30) + show * DAY;
  const count = 1 + Math.floor(r.uniform() * 3);
  const day: ShowDay = { curtainMs, fromMs: 0, strings: [], r, records: [] };
  const swing = r.between(0.2, 1.6);
  const phase = r.uniform() * 2 * Math.PI;
  for (let k = 0; k < count; k++) {
    const materials = SETS[Math.floor(r.uniform() * SETS.length)]!;
    const strungMin = logBetween(r, 120, 1800);
    const strungMs = curtainMs - strungMin * MINUTE;
    const instrumentId = `i${k}`;
    const about = { atMs: strungMs - MINUTE, zoneMin: 120, version: RECORD_VERSION } as const;
    const plans = materials.map((material, i) => ({
      stringId: `s${i}`,
      note: NOTES[i]!,
      lengthMm: 650,
      material,
      gaugeMm: null,
    }));
    day.records.push({
      ...about,
      id: `n${k}`,
      type: 'instrument',
      instrumentId,
      name: instrumentId,
      family: 'guitar-steel',
      strings: plans,
    });
    materials.forEach((material, i) => {
      const shared = (t: number) => 20 + swing * Math.sin((2 * Math.PI * (t + strungMs / MINUTE)) / 1440 + phase);
      const truth = stringOf(r, material, strungMin + SHOW_MIN + 40, Math.floor(r.uniform() * LAWS), shared);
      const stringId = `s${i}`;
      day.strings.push({ instrumentId, stringId, strungMs, truth });
      day.records.push({ ...about, atMs: strungMs, id: `f${k}.${i}`, type: 'fitted', instrumentId, stringId });
    });
    const own = day.strings.filter((s) => s.instrumentId === instrumentId);
    own.forEach((s, i) => void bringUp(day, s, strungMs + (2 + i * HAND_MIN) * MINUTE, 0));
    day.fromMs = Math.max(day.fromMs, strungMs + 6 * MINUTE);
  }
  return day;
}

const trueCents = (s: Played, atMs: number): number => s.truth.centsAt((atMs - s.strungMs) / MINUTE) + leadOf(s);
/** What a string was left above its target: kept here, since the true string knows no leads. */
const leads = new WeakMap<Played, number>();
const leadOf = (s: Played) => leads.get(s) ?? 0;

function write(day: ShowDay, s: Played, atMs: number, purpose: ReadingRecord['purpose'], leadCents: number): number {
  const cents = trueCents(s, atMs) + PLUCK_CENTS * day.r.normal();
  day.records.push({
    id: `r${day.records.length}`,
    version: RECORD_VERSION,
    atMs,
    zoneMin: 120,
    type: 'reading',
    instrumentId: s.instrumentId,
    stringId: s.stringId,
    purpose,
    source: 'microphone',
    frequencyHz: A4 * Math.pow(2, cents / 1200),
    cents,
    sigmaCents: 0.3,
    targetHz: A4,
    a4Hz: A4,
    partials: [],
    ...(purpose === 'as-left' && leadCents !== 0 ? { leadCents } : {}),
  });
  return cents;
}

function bringUp(day: ShowDay, s: Played, atMs: number, leadCents: number): void {
  s.truth.bringUp((atMs - s.strungMs) / MINUTE);
  leads.set(s, leadCents);
  write(day, s, atMs + 0.1 * MINUTE, 'as-left', leadCents);
}

/** Reads a string as found and brings it to its lead where it is further off. @returns when the hand is free again, ms */
export function visit(day: ShowDay, s: Played, atMs: number, leadCents: number, fromCents: number): number {
  const found = write(day, s, atMs, 'as-found', 0);
  if (Math.abs(found - leadCents) < fromCents) return atMs + HAND_MIN * MINUTE;
  bringUp(day, s, atMs + HAND_MIN * MINUTE, leadCents);
  return atMs + 2 * HAND_MIN * MINUTE;
}

export interface Score {
  shows: number;
  before: number;
  inShow: number;
  out: number;
  minutes: number;
  strings: number;
  everOut: number;
  workMin: number;
}
export const blank = (): Score => ({
  shows: 0,
  before: 0,
  inShow: 0,
  out: 0,
  minutes: 0,
  strings: 0,
  everOut: 0,
  workMin: 0,
});

/** Counts the string-minutes out of tolerance from one time to another. */
export function watchStrings(score: Score, day: ShowDay, ever: Set<Played>, fromMs: number, toMs: number): void {
  for (let t = Math.ceil(fromMs / MINUTE); t < toMs / MINUTE; t++)
    for (const s of day.strings) {
      score.minutes++;
      if (Math.abs(trueCents(s, (t + 0.5) * MINUTE)) <= TOLERANCE_CENTS) continue;
      score.out++;
      ever.add(s);
    }
}
