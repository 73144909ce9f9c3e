/**
 * Instruments with histories drawn by lot, by laws that are not the estimator's: what was written of them, and what is true of
 * them at every moment, also of what comes when nobody touches them.
 */
import { RECORD_VERSION, type Draft, type LogRecord } from '../../src/core/log';
import { targetFrequencyHz } from '../../src/core/music';
import { randomFrom, type Random } from '../../src/core/simulate';
import { logBetween, type TrueString } from '../forecast/truth';
import { LAWS, NOTES, SETS, stringOf } from '../plan/world';
import { HOUR, DAY, MINUTE } from '../../src/core/base';
import { relaxing } from './strings';

const A4 = 440;
const HAND_MIN = 0.4;
const PLUCK_CENTS = 0.35;
/** The truth is known so far beyond the moment that is asked about, min. */
export const BEYOND_MIN = 2 * 1440;

/** What befell the strings before the last walk, of which the log says nothing but what was read. */
export type Befell =
  | 'nothing'
  /** One string dropped at once: read twice and noted as such; read once; read twice and not noted. */
  | 'slip, noted'
  | 'slip, one reading'
  | 'slip, two readings'
  /** All strings were put to another reference; tuned by somebody as he pleased. */
  | 'retuned alike'
  | 'retuned by somebody';

/** What happened to an instrument that no string did by itself, cents; and what its octave, friction and ear are. */
export interface Hidden {
  befell: Befell;
  /** All strings were put to another reference, sharp positive; 0 where nobody did. */
  retunedCents: number;
  /** A string that dropped at once, by index; undefined where none did. */
  slipped: number | undefined;
  /** The last figure of this string is a slip of the pen. */
  gross: boolean[];
  /** Saddles from where they belong, mm, by string. */
  saddleMm: number[];
  /** Strings that are uneven. */
  uneven: boolean[];
  /** From flat to sharp limit, cents, of the strings whose friction was measured. */
  frictionCents: Map<number, number>;
  earCents: number | undefined;
  /** Offsets of the strings when checkpoints were sounded; undefined where none were. */
  net: { anchor: number; cents: number[] } | undefined;
}

/** How instruments are kept: as in a workshop, or as people do. */
export type Habits = 'of a workshop' | 'of people';

export interface Audited {
  habits: Habits;
  materials: readonly string[];
  records: LogRecord[];
  nowMs: number;
  strungMs: number;
  strings: TrueString[];
  /** Where a string stands, cents from its target. */
  cents: (index: number, atMs: number) => number;
  tempC: (atMs: number) => number;
  hidden: Hidden;
  showMs: number | undefined;
  /** Falls of the strings between readings, in which nobody touched them, to their last reading, cents. */
  fallen: number[];
  /** When each was left last, ms. */
  leftMs: (number | undefined)[];
  /** When each was read last, ms. */
  readMs: number[];
  r: Random;
}

const BEFALLS: readonly Befell[] = [
  'nothing',
  'nothing',
  'nothing',
  'slip, noted',
  'slip, one reading',
  'slip, two readings',
  'retuned alike',
  'retuned by somebody',
];
/** One typed figure in so many is wrong. */
const GROSS = 1 / 60;
/** A sign that is lost, a point that is missing, a digit read wrong, another string's figure. */
const slipOfPen = (r: Random, cents: number): number => {
  const kind = Math.floor(4 * r.uniform());
  if (kind === 0 && Math.abs(cents) > 4) return -cents;
  if (kind === 1 && Math.abs(cents) > 1) return 10 * cents;
  return kind === 2 ? cents + (r.uniform() < 0.5 ? -1 : 1) * 10 * Math.ceil(3 * r.uniform()) : cents + 60 * r.normal();
};

const FRETTED = 648;
/** Error of the fretted octave of a string whose saddle stands off by so many mm (Mersenne), cents. */
export const octaveErrorCents = (offMm: number): number =>
  1200 * Math.log2((FRETTED + offMm) / (FRETTED / 2 + offMm) / 2);

/** Between reading a string and turning it a person waits so long, min; away for so long, twice. */
const SLOW_HAND_MIN = 3;
const AWAY_MIN = 21 * 1440;

/** One instrument and its day or weeks, up to a moment at which it is asked about. */
export function drawAudited(seed: number, id: number): Audited {
  const habits: Habits = id % 2 ? 'of people' : 'of a workshop';
  const ofPeople = habits === 'of people';
  const r = randomFrom(seed * 7919 + id * 104729);
  const materials = SETS[Math.floor(r.uniform() * SETS.length)]!;
  const aways = ofPeople && r.uniform() < 0.3 ? [0.3, 0.7].map((x) => x * r.between(0.5, 1)) : [];
  const ageMin = logBetween(r, 25, 10 * 1440) + aways.length * AWAY_MIN;
  const strungMs = Date.UTC(2026, 5, 1, 8) + Math.floor(r.uniform() * 20) * HOUR;
  const nowMs = Math.round(strungMs + ageMin * MINUTE);
  const endMin = ageMin + BEYOND_MIN;
  const swing = r.between(0.2, ofPeople ? 2.5 : 1.8);
  const phase = r.uniform() * 2 * Math.PI;
  const roomAt = (t: number) => 20 + swing * Math.sin((2 * Math.PI * (t + strungMs / MINUTE)) / 1440 + phase);
  // People change one string at a time, and write it down later, or not.
  const olderMin = materials.map(() => (ofPeople && r.uniform() < 0.3 ? logBetween(r, 60, 60 * 1440) : 0));
  const notedLateMin = materials.map(() => (ofPeople && r.uniform() < 0.1 ? logBetween(r, 10, 600) : 0));
  const strings = materials.map((m, i) =>
    ofPeople
      ? relaxing(r, m, endMin, olderMin[i]!, roomAt)
      : stringOf(r, m, endMin, Math.floor(r.uniform() * LAWS), roomAt),
  );
  const hasThermometer = r.uniform() < (ofPeople ? 0.3 : 0.5);
  /** Written down from another device: with slips of the pen, and no partials. */
  const isTyped = r.uniform() < 0.5;
  const befell = BEFALLS[Math.floor(r.uniform() * BEFALLS.length)]!;
  const sign = r.uniform() < 0.5 ? -1 : 1;
  const hidden: Hidden = {
    befell,
    retunedCents: befell.startsWith('retuned') ? sign * r.between(4, 15) : 0,
    slipped: befell.startsWith('slip') ? Math.floor(r.uniform() * strings.length) : undefined,
    gross: strings.map(() => false),
    saddleMm: strings.map(() => r.between(-3, 3)),
    uneven: strings.map(() => r.uniform() < 0.08),
    frictionCents: new Map(),
    earCents: undefined,
    net: undefined,
  };
  const slipCents = befell === 'slip, noted' ? r.between(6, 25) : r.between(5, 40);
  /** Added to the true string by hands that no record tells of, from a moment on. */
  const shifts: { index: number; atMs: number; cents: number }[] = [];
  const cents = (index: number, atMs: number) =>
    strings[index]!.centsAt((atMs - strungMs) / MINUTE) +
    shifts.reduce((sum, s) => (s.index === index && s.atMs <= atMs ? sum + s.cents : sum), 0);
  const last: (number | undefined)[] = strings.map(() => undefined);
  /** Somebody turned it without a word. */
  const shift = (index: number, atMs: number, by: number) => {
    shifts.push({ index, atMs, cents: by });
    // Hands moved it, not a fall.
    if (last[index] !== undefined) last[index]! += by;
  };
  const records: LogRecord[] = [];
  const write = (atMs: number, draft: Draft) =>
    records.push({
      ...draft,
      id: `r${records.length}`,
      version: RECORD_VERSION,
      atMs: Math.round(atMs),
      zoneMin: 120,
    } as LogRecord);
  const own = { instrumentId: 'x' };
  const plans = materials.map((material, i) => ({
    stringId: `s${i}`,
    note: NOTES[i]!,
    lengthMm: FRETTED,
    material,
    gaugeMm: null,
  }));
  write(strungMs - MINUTE, { type: 'instrument', ...own, name: 'X', family: 'guitar-steel', strings: plans });
  plans.forEach(({ stringId }, i) =>
    write(strungMs + (notedLateMin[i]! - olderMin[i]!) * MINUTE, { type: 'fitted', ...own, stringId }),
  );
  const readMs = strings.map(() => 0);
  const fallen = strings.map(() => 0);
  const leftMs: (number | undefined)[] = strings.map(() => undefined);
  const read = (i: number, atMs: number, purpose: 'as-found' | 'as-left', more: object = {}) => {
    const truth = cents(i, atMs);
    if (purpose === 'as-found' && last[i] !== undefined) fallen[i]! += last[i]! - truth;
    last[i] = truth;
    readMs[i] = atMs;
    const { note, stringId } = plans[i]!;
    const targetHz = targetFrequencyHz(note, A4)!;
    const isGross = isTyped && r.uniform() < GROSS;
    const read = truth + PLUCK_CENTS * r.normal();
    const off = isGross ? slipOfPen(r, read) : isTyped ? Math.round(10 * read) / 10 : read;
    hidden.gross[i] = isGross;
    write(atMs, {
      type: 'reading',
      ...own,
      stringId,
      purpose,
      source: isTyped ? 'typed' : 'microphone',
      frequencyHz: targetHz * 2 ** (off / 1200),
      cents: off,
      sigmaCents: isTyped ? 1 : 0.3,
      targetHz,
      a4Hz: A4,
      partials: [],
      ...(hasThermometer
        ? { tempC: Math.round(10 * (roomAt((atMs - strungMs) / MINUTE) + 0.15 * r.normal())) / 10 }
        : {}),
      ...more,
    });
    return off;
  };
  const bringUp = (i: number, atMs: number) => {
    strings[i]!.bringUp((atMs - strungMs) / MINUTE);
    // What somebody did to it before is undone by tuning it.
    const stood = shifts.filter((s) => s.index === i).reduce((sum, s) => sum + s.cents, 0);
    if (stood !== 0) shifts.push({ index: i, atMs, cents: -stood });
    leftMs[i] = atMs + 0.1 * MINUTE;
    read(i, leftMs[i]!, 'as-left', { arrival: 'from below' });
  };
  const walk = (atMs: number, tunes: boolean, isLast: boolean) => {
    let t = atMs;
    strings.forEach((_, i) => {
      const slip = isLast && hidden.slipped === i && last[i] !== undefined;
      const off = read(i, t, 'as-found');
      // Where the player is asked for a second pluck, it says the same.
      if (slip && befell === 'slip, noted') read(i, t + 0.2 * MINUTE, 'as-found', { slip: true });
      if (slip && befell === 'slip, two readings') read(i, t + MINUTE, 'as-found');
      t += HAND_MIN * MINUTE;
      if (!tunes || Math.abs(off) <= 3) return;
      if (ofPeople) t += r.between(0, 2) * SLOW_HAND_MIN * MINUTE;
      const stood = cents(i, t);
      if (last[i] !== undefined) fallen[i]! += last[i]! - stood;
      bringUp(i, t);
      t += HAND_MIN * MINUTE;
    });
    return t;
  };
  strings.forEach((_, i) => bringUp(i, strungMs + (1.5 + i * HAND_MIN) * MINUTE));
  let step = r.between(4, 30);
  let t = strungMs + step * MINUTE + strings.length * MINUTE;
  // The last walk has happened some while before it is asked.
  const lastMs = nowMs - logBetween(r, 1, Math.max(2, ageMin / 2)) * MINUTE;
  for (; t < lastMs - 12 * MINUTE; t += step * MINUTE) {
    // Away for three weeks; and now and then somebody tunes it in passing.
    if (aways.length > 0 && (t - strungMs) / MINUTE > aways[0]! * ageMin && t + AWAY_MIN * MINUTE < lastMs) {
      aways.shift();
      t += AWAY_MIN * MINUTE;
    }
    if (ofPeople && r.uniform() < 0.04) {
      const by = (r.uniform() < 0.5 ? -1 : 1) * r.between(4, 15);
      strings.forEach((_, i) => shift(i, t - MINUTE, by + r.between(-2, 2)));
    }
    walk(t, r.uniform() < 0.9, false);
    step = Math.min(900, 5 + step * r.between(1.1, 2.5));
  }
  if (lastMs > strungMs + (4 + 2 * strings.length) * MINUTE) {
    const before = lastMs - MINUTE;
    const tampered = last.every((l) => l !== undefined);
    if (!tampered) [hidden.befell, hidden.retunedCents, hidden.slipped] = ['nothing', 0, undefined];
    // Those who retune by another reference leave each string where its fellows stand.
    if (hidden.retunedCents !== 0) {
      strings.forEach((_, i) => {
        const own = hidden.retunedCents + (befell === 'retuned by somebody' ? r.between(-6, 6) : 0);
        shift(i, before, own);
      });
    }
    if (hidden.slipped !== undefined) shifts.push({ index: hidden.slipped, atMs: before, cents: -slipCents });
    walk(lastMs, hidden.retunedCents === 0 && hidden.slipped === undefined && r.uniform() < 0.6, true);
  } else [hidden.befell, hidden.retunedCents, hidden.slipped] = ['nothing', 0, undefined];
  const busyMs = Math.max(...records.map((x) => x.atMs));
  const at = Math.max(nowMs, busyMs + MINUTE);
  extras({ r, hidden, write, own, plans, cents, atMs: at - 0.5 * MINUTE });
  const showMs = r.uniform() < 0.6 ? Math.round(at + logBetween(r, 30, 1200) * MINUTE) : undefined;
  if (showMs !== undefined) write(strungMs, { type: 'curtain', curtainMs: showMs });
  const tempC = (atMs: number) => roomAt((atMs - strungMs) / MINUTE);
  return {
    habits,
    materials,
    records,
    nowMs: Math.round(at),
    strungMs,
    strings,
    cents,
    tempC,
    hidden,
    showMs,
    fallen,
    leftMs,
    readMs,
    r,
  };
}

interface Extra {
  r: Random;
  hidden: Hidden;
  write: (atMs: number, draft: Draft) => void;
  own: { instrumentId: string };
  plans: { stringId: string; note: string }[];
  cents: (index: number, atMs: number) => number;
  atMs: number;
}

/** Some were measured for more than their pitch: the octave, friction, the ear, checkpoints. */
function extras({ r, hidden, write, own, plans, cents, atMs }: Extra): void {
  if (r.uniform() < 0.5)
    plans.forEach(({ stringId, note }, i) => {
      const openHz = targetFrequencyHz(note, A4)!;
      const touch = (kind: 'open' | 'fret' | 'harmonic', off: number) => {
        const each = [0, 1, 2].map(() => off + 0.3 * r.normal()).sort((a, b) => a - b);
        write(atMs - (60 - i) * 1000, {
          type: 'touch',
          ...own,
          stringId,
          passId: 'octave',
          touch: kind,
          ...(kind === 'open' ? {} : { fret: 12 }),
          source: 'microphone',
          frequencyHz: openHz * 2 ** (each[1]! / 1200),
          sigmaCents: 0.2,
          scatterCents: each[2]! - each[0]!,
          inharmonicity: 0.00004,
        });
      };
      touch('open', 0);
      touch('fret', 1200 + octaveErrorCents(hidden.saddleMm[i]!) + (hidden.uneven[i]! ? r.between(2, 8) : 0));
      touch(
        'harmonic',
        1200 + 600 * Math.log2((1 + 4 * 4e-5) / (1 + 4e-5)) + (hidden.uneven[i]! ? r.between(2, 8) : 0),
      );
    });
  else hidden.saddleMm = [];
  if (r.uniform() < 0.4)
    plans.forEach(({ stringId }, i) => {
      const truth = logBetween(r, 1, 25);
      hidden.frictionCents.set(i, truth);
      const mean = () => (0.4 * (r.normal() + r.normal())) / 2;
      const place = r.uniform();
      write(atMs, {
        type: 'test',
        ...own,
        stringId,
        passId: `friction:${stringId}`,
        test: 'friction',
        firstCents: -truth * place + mean(),
        secondCents: truth * (1 - place) + mean(),
        sigmaCents: 0.4,
      });
    });
  if (r.uniform() < 0.4) {
    const ear = logBetween(r, 0.7, 5);
    hidden.earCents = ear;
    const count = 3 + Math.floor(r.uniform() * 20);
    for (let k = 0; k < count; k++)
      write(atMs - DAY, {
        type: 'judgement',
        ...own,
        stringId: plans[1]!.stringId,
        againstId: plans[0]!.stringId,
        passId: `ear${Math.floor(k / 5)}`,
        school: 'chain',
        interval: [4, 3],
        expectCents: 2,
        cents: ear * r.normal() - 2,
        againstCents: 0,
        sigmaCents: 0.3,
      });
  }
  if (r.uniform() < 0.3) {
    const anchor = 0;
    const stand = plans.map((_, i) => cents(i, atMs) - cents(anchor, atMs));
    hidden.net = { anchor, cents: stand };
    for (let i = 1; i < plans.length; i++)
      for (const against of i === 1 ? [0] : [i - 1, 0])
        write(atMs, {
          type: 'checkpoint',
          ...own,
          stringId: plans[i]!.stringId,
          againstId: plans[against]!.stringId,
          passId: 'net',
          anchorId: plans[anchor]!.stringId,
          interval: [4, 3],
          expectCents: 2,
          cents: 2 + stand[i]! - stand[against]! + 0.35 * r.normal(),
          sigmaCents: 0.3,
          beatsHz: 1,
        });
  }
}
