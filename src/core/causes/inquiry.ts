import { mean, sampleStandardDeviation } from 'simple-statistics';
import type { Logged } from './told';
import type { SinceLast, TestResult } from './kinds';
import type { Told } from '../codes';
import { signedCents } from '../music';
import { octavePasses } from '../octave';
import { leapBefore } from '../status';
import type { Bench, InstrumentLife, StringLife } from '../log';
import { SETTLING_PRIORS } from '../settling';
import { SETTLES_AS } from '../strings';
import { MINUTE, DAY } from '../base';

/** A string is new for so long, and work is recent, days (house estimates). */
const NEW_DAYS = 4;
const RECENT_DAYS = 3;
/** An octave read longer ago says little of today, days. */
const OCTAVE_DAYS = 30;

/** A slot's friction is what it was so long ago, days (house estimate). */
const FRICTION_DAYS = 2;

/** What the log says before anything is asked or tested. */
export interface BeforeInquiry {
  /** This string and the others since they were tuned; undefined where nobody looked since. */
  since: SinceLast | undefined;
  /** Its octave's harmonic against an even string's, from an octave pass on this string: what a saddle does is left out. */
  octave: TestResult | undefined;
  /** Its friction as it was measured, taken apart into the tests that it was made of: a bend to its flat limit, a press to its sharp one. */
  friction: TestResult[];
  told: Logged & Told;
  /** It was brought to pitch from above, last. */
  fromAbove: boolean;
  /** The same in sentences. */
  says: string[];
}

/** When a string was tuned last and read after that; undefined where nobody looked since. */
function since({ readings }: StringLife) {
  const at = readings.findLastIndex((r) => r.purpose === 'as-left');
  const [left, last] = [readings[at], readings.at(-1)];
  return left && last && last !== left ? { left, last, cents: last.cents - left.cents } : undefined;
}

/** How far the others went since they were tuned, and this string. */
function sinceLast({ strings }: InstrumentLife, own: StringLife): SinceLast | undefined {
  const moved = since(own)?.cents;
  const others = strings.filter((s) => s !== own).flatMap((s) => since(s)?.cents ?? []);
  if (moved === undefined || others.length < 2) return undefined;
  return { test: 'since-last', own: moved, others: mean(others), othersSd: sampleStandardDeviation(others) };
}

const days = (ms: number) => (ms < DAY ? 'today' : ms < 2 * DAY ? 'yesterday' : `${Math.floor(ms / DAY)} days ago`);

/** Reads the log of an instrument for what it says of one string that does not stay. */
export function beforeInquiry(life: InstrumentLife, own: StringLife, bench: Bench, nowMs: number): BeforeInquiry {
  const { plan, strungMs, readings } = own;
  const { instrumentId } = life.record;
  const says: string[] = [];
  const told: BeforeInquiry['told'] = {};
  const whole = sinceLast(life, own);
  const pair = since(own);
  if (whole)
    says.push(
      `Since it was tuned it moved ${signedCents(whole.own)} cents, the others ${signedCents(whole.others)} on average.`,
    );
  else if (pair) says.push(`Since it was tuned it moved ${signedCents(pair.cents)} cents. The others were not read.`);
  else says.push('It has not been read since it was tuned. A check of all strings would tell more.');
  const slips = readings.filter((r) => r.slip && leapBefore(readings, r) < 0).length;
  if (readings.length > 2) told.slips = slips;
  if (slips > 0) says.push(slips === 1 ? 'It dropped suddenly once.' : `It dropped suddenly ${slips} times.`);
  if (pair && strungMs !== null) {
    const { slopeCents, tauMin } = SETTLING_PRIORS[SETTLES_AS[plan.material]];
    const age = (ms: number) => Math.max(0, ms - strungMs) / MINUTE + tauMin;
    told.creepCents = slopeCents * Math.log(age(pair.last.atMs) / age(pair.left.atMs));
    says.push(`A string like this falls about ${told.creepCents.toFixed(1)} cents in that time.`);
  }
  if (pair?.left.tempC !== undefined && pair.last.tempC !== undefined) {
    told.warmerC = pair.last.tempC - pair.left.tempC;
    if (Math.abs(told.warmerC) >= 1)
      says.push(
        `The room is ${Math.abs(told.warmerC).toFixed(0)} °C ${told.warmerC > 0 ? 'warmer' : 'colder'} than when it was tuned.`,
      );
  }
  const fromAbove = readings.findLast((r) => r.purpose === 'as-left')?.arrival === 'from above';
  if (fromAbove) says.push('It was tuned from above.');
  const work = [...bench.adjustments, ...bench.treatments].findLast(
    (r) => r.instrumentId === instrumentId && nowMs - r.atMs < RECENT_DAYS * DAY,
  );
  if (strungMs !== null && nowMs - strungMs < NEW_DAYS * DAY) {
    told.after = 'strung';
    says.push(`Strung ${days(nowMs - strungMs)}.`);
  } else if (work && work.type === 'adjustment') {
    told.after = 'worked-on';
    says.push(
      `Its ${work.what === 'other' ? 'setup' : work.what.replace('-', ' ')} was worked on ${days(nowMs - work.atMs)}.`,
    );
  }
  const pass = octavePasses(bench.touches, instrumentId, plan.stringId).findLast(
    (p) => p.atMs >= (strungMs ?? 0) && nowMs - p.atMs < OCTAVE_DAYS * DAY && p.errors.stringCents !== null,
  );
  const octave: TestResult | undefined = pass && { test: 'octave', first: pass.errors.stringCents! };
  if (octave)
    says.push(
      `Its octave harmonic was ${signedCents(octave.first)} cents from where it should be (${days(nowMs - pass!.atMs)}).`,
    );
  const treatedMs = bench.treatments.findLast(
    (t) => t.instrumentId === instrumentId && t.stringIds.includes(plan.stringId),
  )?.atMs;
  const measured = bench.tests.findLast(
    (t) =>
      t.test === 'friction' &&
      t.instrumentId === instrumentId &&
      t.stringId === plan.stringId &&
      nowMs - t.atMs < FRICTION_DAYS * DAY &&
      t.atMs > Math.max(treatedMs ?? 0, strungMs ?? 0),
  );
  const friction: TestResult[] = [];
  if (measured && measured.secondCents !== null) {
    const between = measured.secondCents - measured.firstCents;
    friction.push({ test: 'big-bend', first: measured.firstCents }, { test: 'press-behind-nut', first: between });
    says.push(
      `A bend took it ${signedCents(measured.firstCents)} cents, a press behind the nut back ${signedCents(between)} (${days(nowMs - measured.atMs)}).`,
    );
  }
  return { since: whole, octave, friction, told, fromAbove, says };
}
