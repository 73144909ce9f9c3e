import { bridgeNow } from '../bridge';
import { netOf } from '../by-ear';
import {
  findCause,
  causeBuildOf,
  findingWords,
  beforeInquiry,
  evidenceOf,
  inquiryUnderWay,
  triedIn,
  questionOf,
} from '../causes';
import { TOLERANCE_CENTS } from '../check';
import { signedCents } from '../music';
import { freshMoves, octavesOf, sizeOf, direction } from '../octave';
import { clockTime, HOUR, MINUTE } from '../base';
import { traitsOf } from '../strings';
import { normal, type Statement } from './statement';
import type { SayAsked } from './asked';
import { roomWords } from './words';
import { type LifeFit, type CommonOffset, type StringStatus, commonOffset, roomSince } from '../status';
import { instrumentFriction, lastsWords } from '../friction';

/** Causes that are named at all. */
const NAMED = 0.1;
/** A change of the room smaller than this, or one that moves a string less, is not told. */
const LEAST_DEGREES = 0.5;
const LEAST_CENTS = 0.4;
/** Two pulls of one hand find limits that differ by this share of what lies between, standard deviation (house estimate). */
const HAND_SHARE = 0.1;
/** A net is of this moment for so long, ms. */
const NET_MS = 3 * HOUR;
const NET_NOW_MS = 10 * MINUTE;

/** What all strings have in common. */
function together(off: CommonOffset | undefined): Statement[] {
  if (!off) return [];
  const common: Statement = {
    kind: 'common-offset',
    ...normal(off.cents, off.sigmaCents),
    unit: 'cents',
    text: off.words,
  };
  if (off.asHz === null) return [common];
  const perCent = (off.asHz * Math.LN2) / 1200;
  return [
    common,
    { kind: 'reference-suspect', ...normal(off.asHz, off.sigmaCents * perCent), unit: 'Hz', text: off.words },
  ];
}

/** What the room did to each string since it was left. @param tuned all strings moved: without a thermometer that may be hands as well */
function room({ life, zone }: SayAsked, fits: readonly (LifeFit | undefined)[], tuned: boolean): Statement[] {
  return life.strings.flatMap((s, i): Statement[] => {
    const byStrings = tuned && fits[i]?.temperatureFrom === 'other strings';
    const moved = fits[i] && !byStrings ? roomSince(s, fits[i]) : undefined;
    const least = Math.max(LEAST_CENTS, moved ? moved.sdCents : 0);
    if (!moved || Math.abs(moved.degrees) < LEAST_DEGREES || Math.abs(moved.cents) < least) return [];
    return [
      {
        kind: 'room-change',
        string: s.plan.stringId,
        ...normal(moved.cents, moved.sdCents),
        unit: 'cents',
        degrees: moved.degrees,
        text: roomWords(s.plan.note, moved.cents, moved.degrees, clockTime(moved.sinceMs, zone)),
      },
    ];
  });
}

/** Octaves, the moves that would put them right, and strings that no move puts right. */
function octave({ life, bench }: SayAsked): Statement[] {
  const octaves = octavesOf(life, bench);
  const says = octaves.strings.flatMap((s): Statement[] => {
    if (!s.last || s.stale !== null || s.moveMm === null) return [];
    const { errorCents, sigmaCents } = s.last.errors;
    const own = { string: s.stringId, atMs: s.last.atMs };
    const error: Statement = {
      kind: 'octave-error',
      ...own,
      ...normal(errorCents, sigmaCents),
      unit: 'cents',
      text: `${s.note}: the octave at the 12th fret is ${Math.abs(errorCents).toFixed(1)} cents ${errorCents < 0 ? 'flat' : 'sharp'}.`,
    };
    if (s.verdict !== 'string' || !s.confirmed) return [error];
    return [
      error,
      {
        kind: 'string-worn',
        ...own,
        text: `${s.note}: the string itself is uneven. Replace it before you move anything.`,
      },
    ];
  });
  const moves = freshMoves(octaves).map(({ what, stringIds, moveMm }): Statement => {
    const of = octaves.strings.find((s) => s.stringId === stringIds[0])!;
    const sd = octaves.loose ? Math.max(...octaves.strings.map((s) => s.moveSigma)) : of.moveSigma;
    const [part, string] =
      what === 'saddle'
        ? [`the saddle of ${of.note}`, of.stringId]
        : [`the bridge foot under the ${what === 'low-foot' ? 'lowest' : 'highest'} string`, undefined];
    return {
      kind: 'saddle-move',
      ...(string ? { string } : {}),
      ...normal(moveMm, sd),
      unit: 'mm',
      text: `Move ${part} ${sizeOf(moveMm, 'mm')} ${direction(moveMm)}.`,
    };
  });
  return [...says, ...moves];
}

/** Why a string does not stay: of the inquiry under way, else what the last one found. */
function causes({ life, bench, nowMs, a4Hz }: SayAsked): Statement[] {
  const { instrumentId } = life.record;
  const under = inquiryUnderWay(life, bench, nowMs);
  const string = life.strings.find((s) => s.plan.stringId === under?.stringId);
  if (under && string) {
    const build = causeBuildOf(life);
    const tests = evidenceOf(bench, under.passId, under.stringId);
    const before = beforeInquiry(life, string, bench, nowMs);
    const answer = findCause(
      questionOf(
        life,
        build,
        string,
        before,
        tests,
        { ...tests[0]?.told, tried: triedIn(bench, under.passId) },
        new Set(),
        a4Hz,
        nowMs,
      ),
    );
    const text = findingWords(answer);
    return answer.causes
      .filter((c) => c.probability > NAMED)
      .map(({ cause, probability }) => ({
        kind: 'cause',
        string: under.stringId,
        value: cause,
        chance: probability,
        text,
      }));
  }
  const found = bench.findings.findLast((f) => f.instrumentId === instrumentId);
  const [first] = found?.causes ?? [];
  const on = life.strings.find((s) => s.plan.stringId === found?.stringId);
  if (!found || !first || !on || found.outcome === 'helped' || found.atMs < (on.strungMs ?? 0)) return [];
  const { cause, probability } = first;
  const text = findingWords({
    causes: found.causes,
    next: undefined,
    stop: true,
    cannotTell: [],
    wouldPart: undefined,
    unfound: false,
    misfit: undefined,
  });
  return [{ kind: 'cause', string: found.stringId, value: cause, chance: probability, atMs: found.atMs, text }];
}

/** Friction as it was last measured, and how long a lubricant lasts. */
function friction({ life, bench }: SayAsked): Statement[] {
  const { strings, lasts } = instrumentFriction(life, bench);
  const says = strings.flatMap((s): Statement[] => {
    const last = s.figures.at(-1);
    // Lubricated since: what was measured is no more.
    if (!last || s.lubricatedMs.some((ms) => ms > last.atMs)) return [];
    const { cents, sdCents } = last.figure;
    return [
      {
        kind: 'friction',
        string: s.stringId,
        ...normal(cents, Math.hypot(sdCents, HAND_SHARE * cents)),
        unit: 'cents',
        atMs: last.atMs,
        text: `${s.note}: friction at the nut holds it anywhere within ${cents.toFixed(1)} cents.`,
      },
    ];
  });
  if (!lasts) return says;
  return [
    ...says,
    {
      kind: 'lubricant-life',
      value: lasts.days,
      interval: [lasts.low, lasts.high],
      unit: 'days',
      text: lastsWords(lasts),
    },
  ];
}

/** What a floating bridge asks for now: the reading to stop at. */
function bridge({ life, bench, a4Hz, nowMs }: SayAsked): Statement[] {
  if (traitsOf(life.record).holds !== 'springs') return [];
  const { advice } = bridgeNow({ life, bench, a4Hz, nowMs });
  const string = advice?.string === undefined ? undefined : life.strings[advice.string - 1];
  if (!string || advice?.stopAtCents === undefined) return [];
  return [
    {
      kind: 'stop-at',
      string: string.plan.stringId,
      value: advice.stopAtCents,
      unit: 'cents',
      text: `Stop ${string.plan.note} at ${signedCents(advice.stopAtCents)} cents.`,
    },
  ];
}

/** Where the strings stand by checkpoints between them. */
function net({ life, bench, nowMs, zone }: SayAsked): Statement[] {
  const checked = netOf(bench.checkpoints, life, bench.judgements);
  if (!checked || nowMs - checked.atMs > NET_MS) return [];
  const anchor = life.strings[checked.anchor]!.plan.note;
  // What no checkpoint ties, or only one that may be wrong, is not said.
  const bound = new Set(
    checked.checkpoints.flatMap((c, k) => (checked.suspect.includes(k) ? [] : [c.stringId, c.againstId])),
  );
  const when = nowMs - checked.atMs < NET_NOW_MS ? '' : ` at ${clockTime(checked.atMs, zone)}`;
  return life.strings.flatMap(({ plan }, i): Statement[] => {
    const [cents, sd] = [checked.offsets[i] ?? null, checked.sigma[i] ?? null];
    if (cents === null || sd === null || i === checked.anchor || !bound.has(plan.stringId)) return [];
    return [
      {
        kind: 'net-offset',
        string: plan.stringId,
        ...normal(cents, sd),
        unit: 'cents',
        atMs: checked.atMs,
        text:
          Math.abs(cents) <= TOLERANCE_CENTS
            ? `${plan.note} ${when ? 'agreed' : 'agrees'} with ${anchor}${when}: ${signedCents(cents)} cents.`
            : `${plan.note} ${when ? 'was' : 'is'} ${Math.abs(cents).toFixed(1)} cents ${cents < 0 ? 'flat' : 'sharp'} against ${anchor}${when}.`,
      },
    ];
  });
}

/** Everything that is claimed of one instrument as a whole. */
export function instrumentSays(
  asked: SayAsked,
  statuses: readonly StringStatus[],
  fits: readonly (LifeFit | undefined)[],
): Statement[] {
  const off = commonOffset(asked.life, statuses, asked.a4Hz);
  return [
    ...together(off),
    ...room(asked, fits, off !== undefined),
    ...octave(asked),
    ...causes(asked),
    ...friction(asked),
    ...bridge(asked),
    ...net(asked),
  ];
}
