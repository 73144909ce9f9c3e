import { clockTime } from '../records';
import { fallAhead, mixtureQuantile, type SettlingMaterial } from '../settling';
import { chanceInShow, ifRestrung, READY, readyAgeMin } from './outlook';
import type { Plan, PlanItem, PlanSession, PlanStep, PlanString, ShowOutlook } from './types';
import { fitAt, walksUntil, type Walk } from './walks';

const MINUTE = 60000;
const DAY = 1440 * MINUTE;
/** Strings and cases stand in the room of the show this long before the last tuning, min (house rule). */
const AIR_MIN = 35;
/** Between the last tuning and the curtain, min. */
const BREATH_MIN = 5;
/** Below this there, instruments stay in their cases until it is warmer, deg C. */
const FREEZING_C = 2;
/** Retunings between pieces are gathered when they lie this close, min. */
const GATHER_MIN = 10;
/** Full bends or bar dives on every string, and the retuning after them, take this much longer than a check. */
const ROUTINE = 2;

/** Stretch rounds of one string take about this long, min (house estimate). */
const ROUNDS_MIN = 6;

const minus = (cents: number) => cents.toFixed(0).replace('-', '−');

interface Asked {
  strings: readonly PlanString[];
  session: PlanSession;
  nowMs: number;
  zoneMin: number;
  /** How long one string takes to check and bring up, min, learned from the record. */
  minutesPerString: number;
  /** Checks of each instrument already done for this show: the serial numbers of the next ones go on from there. */
  doneChecks?: Record<string, number>;
}

/** Strings of a list by instrument, in order of first appearance. */
function byInstrument(strings: readonly PlanString[]): Map<string, PlanString[]> {
  const groups = new Map<string, PlanString[]>();
  for (const s of strings) groups.set(s.instrumentId, [...(groups.get(s.instrumentId) ?? []), s]);
  return groups;
}

/** @param dueMs when it was due, where that is before it can be done */
type Add = (
  what: PlanStep,
  atMs: number,
  list: readonly PlanString[],
  minutes: number,
  why: string,
  dueMs?: number,
) => void;

/** What to do from now to the end of a show, for all instruments at once, in order of time. */
export function planShow(asked: Asked): Plan {
  const { strings, session, nowMs, minutesPerString } = asked;
  const endMs = session.curtainMs + session.minutes * MINUTE;
  const items: PlanItem[] = [];
  const add: Add = (what, atMs, list, minutes, why, dueMs = atMs) => {
    if (list.length === 0) return;
    const { instrumentId } = list[0]!;
    const done = what === 'check' ? (asked.doneChecks?.[instrumentId] ?? 0) : 0;
    const serial = done + items.filter((i) => i.what === what && i.instrumentId === instrumentId).length + 1;
    items.push({
      uid: `${session.curtainMs}-${instrumentId}-${what}-${serial}`,
      atMs: Math.round(Math.max(atMs, nowMs)),
      minutes,
      what,
      instrumentId,
      stringIds: list.map((s) => s.stringId),
      why,
      late: dueMs < nowMs - MINUTE,
      conflict: false,
    });
  };
  const takes = (list: readonly PlanString[], times = 1) =>
    Math.max(1, Math.round(times * minutesPerString * list.length));
  const groups = [...byInstrument(strings).values()];
  const routineMin = groups.reduce((sum, list) => sum + takes(list, ROUTINE), 0);
  const tunedMs = session.curtainMs - (BREATH_MIN + routineMin) * MINUTE;
  const before = tunedMs > nowMs;

  for (const list of groups) {
    addRestringing(asked, list, tunedMs, endMs, add);
    if (session.school === 'make-ready') {
      const fresh = list.filter((s) => s.strungMs !== null && nowMs - s.strungMs < DAY && s.rounds === 0);
      if (before)
        add(
          'rounds',
          nowMs,
          fresh,
          ROUNDS_MIN * fresh.length,
          'New strings settle by stretch rounds: until two drops in a row stay under 2 cents.',
        );
    }
    if (before) add('acclimatise', tunedMs - AIR_MIN * MINUTE, list, AIR_MIN, airWords(list, session));
  }

  const walks = before ? walksUntil(strings, nowMs, tunedMs - 10 * MINUTE, session.toleranceCents) : [];
  for (const walk of walks) {
    let atMs = walk.atMs;
    for (const list of byInstrument(walk.strings).values()) {
      const since = list.map((s) => walk.sinceMs[walk.strings.indexOf(s)]!);
      // One pair of hands: one after the other, and late by when the first of them was due.
      const dueMs = Math.min(atMs, walk.dueMs);
      add('check', atMs, list, takes(list), checkWords(list, since, walk, session.toleranceCents), dueMs);
      atMs += takes(list) * MINUTE;
    }
  }

  let atMs = tunedMs;
  for (const list of before ? groups : []) {
    add(
      'last-tuning',
      atMs,
      list,
      takes(list, ROUTINE),
      'Full bends, or the bar down and up, on every string; then retune each from below, and leave it.',
    );
    atMs += takes(list, ROUTINE) * MINUTE;
  }
  const fromMs = before ? tunedMs : nowMs;
  const outlook = strings.map((s) => outlookOf(s, fromMs, endMs, session.toleranceCents));
  addBetween(asked, fromMs, endMs, (list) => takes(list), add);

  items.sort((a, b) => a.atMs - b.atMs);
  markConflicts(items);
  return { items, outlook, walks: walks.length };
}

function outlookOf(s: PlanString, fromMs: number, endMs: number, toleranceCents: number): ShowOutlook {
  const { instrumentId, stringId } = s;
  if (!s.fit) return { instrumentId, stringId, chance: null, fall: null };
  const fit = fitAt(s, fromMs);
  const minutes = Math.max(1, (endMs - fromMs) / MINUTE);
  const mix = fallAhead(fit, minutes);
  return {
    instrumentId,
    stringId,
    chance: chanceInShow(fit, minutes, toleranceCents, 0),
    fall: { q05: mixtureQuantile(mix, 0.05), q50: mixtureQuantile(mix, 0.5), q95: mixtureQuantile(mix, 0.95) },
  };
}

/** Latest sensible restringing of an instrument, or that it is too late; and strings too fresh for the chosen school. */
function addRestringing(
  { session, nowMs, zoneMin }: Asked,
  list: readonly PlanString[],
  tunedMs: number,
  endMs: number,
  add: Add,
): void {
  const madeReady = session.school === 'make-ready';
  const holdMin = (endMs - tunedMs) / MINUTE;
  const intervalMs = session.intervalMin === null ? endMs : session.curtainMs + session.intervalMin * MINUTE;
  const until = session.intervalMin === null ? 'the end' : 'the interval';
  const kinds = new Map<SettlingMaterial, PlanString>();
  for (const s of list) if (!kinds.has(s.material)) kinds.set(s.material, s);
  const ages = [...kinds.values()].map((s) => ({ s, age: readyAgeMin(s, holdMin, session.toleranceCents, madeReady) }));
  const slowest = ages.reduce((a, b) => ((b.age ?? Infinity) > (a.age ?? Infinity) ? b : a));
  const latestMs =
    slowest.age === null ? -Infinity : Math.min(tunedMs - slowest.age * MINUTE, madeReady ? Infinity : tunedMs - DAY);
  if (latestMs > nowMs) {
    add(
      'restring',
      latestMs,
      list,
      0,
      `The latest moment for new strings: ${slowest.s.note} then still gets ready to hold.`,
    );
  } else if (tunedMs > nowMs) {
    const worst = ifRestrung(
      slowest.s,
      nowMs + 10 * MINUTE,
      tunedMs,
      intervalMs,
      endMs,
      session.toleranceCents,
      madeReady,
    );
    const out = worst.fall.q50;
    const retune = tunedMs + (intervalMs - tunedMs) * Math.min(1, session.toleranceCents / Math.max(0.1, out));
    const enough = out <= session.toleranceCents;
    add(
      'too-late',
      nowMs,
      list,
      0,
      enough
        ? 'Too late for new strings by your own rule: never a set fitted the same day.'
        : `Too late for a new set: ${slowest.s.note} would be ${out.toFixed(0)} cents flat by ${until} (${minus(worst.fall.q05)} to ${minus(worst.fall.q95)}), the first retuning at ${clockTime(retune, zoneMin)}.`,
    );
  }
  const sameDay = list.filter((s) => s.strungMs !== null && session.curtainMs - s.strungMs < DAY);
  if (!madeReady && sameDay.length > 0 && tunedMs > nowMs)
    add(
      'same-day',
      nowMs,
      sameDay,
      0,
      'Fitted less than a day before the curtain: by your rule they do not play. Borrow an older set, or choose rounds and treatment.',
    );
}

function airWords(list: readonly PlanString[], { thereC, hereC }: PlanSession): string {
  if (thereC !== null && thereC < FREEZING_C)
    return `It is about ${thereC.toFixed(0)} °C there: leave the cases shut until it is warmer, then half an hour open.`;
  if (thereC === null || hereC === null || Math.abs(thereC - hereC) < 1)
    return 'Cases open in the air of the show, half an hour or more before the last tuning.';
  const shifts = list.map((s) => s.prior.tempMean * (thereC - hereC));
  const least = Math.min(...shifts);
  const most = Math.max(...shifts);
  const words = Math.abs(most - least) < 0.5 ? minus(most) : `${minus(least)} to ${minus(most)}`;
  return `Cases open half an hour: ${minus(thereC - hereC)} °C against here moves the strings by about ${words} cents.`;
}

function checkWords(
  list: readonly PlanString[],
  sinceMs: readonly (number | null)[],
  walk: Walk,
  toleranceCents: number,
): string {
  if (list.some((s) => !s.fit)) return 'Not read yet: one pluck a string, touch no tuner.';
  const isOff = (s: PlanString, i: number) =>
    Math.abs(s.offsetCents ?? 0) > toleranceCents && sinceMs[i] === s.lastReadMs;
  if (list.every(isOff)) return 'Out of tolerance: bring them up from below.';
  const gone = list.map((s, i) => {
    const since = Math.max(sinceMs[i]!, s.startMs!);
    return mixtureQuantile(fallAhead(fitAt(s, since), Math.max(1, (walk.atMs - since) / MINUTE)), 0.9);
  });
  return `By then as much as ${Math.max(0.1, ...gone).toFixed(1)} cents may be gone: bring up what is more than ${(toleranceCents / 2).toFixed(1)} off.`;
}

/** Retunings in the show: when a string's chance to hold since its last one drops under READY; those close together at once. */
function addBetween(
  { strings, session, nowMs }: Asked,
  fromMs: number,
  endMs: number,
  takes: (list: readonly PlanString[]) => number,
  add: Add,
): void {
  const turns: { atMs: number; string: PlanString }[] = [];
  for (const string of strings.filter((s) => s.fit)) {
    let since = fromMs;
    for (let round = 0; round < 12; round++) {
      const outMs = since + holdsForMin(string, since, (endMs - since) / MINUTE, session.toleranceCents) * MINUTE;
      if (outMs >= endMs - MINUTE) break;
      const atMs = Math.max(outMs, session.curtainMs, nowMs, since + LEAST_BETWEEN_MIN * MINUTE);
      if (atMs >= endMs - MINUTE) break;
      turns.push({ atMs, string });
      since = atMs;
    }
  }
  const intervalMs = session.intervalMin === null ? null : session.curtainMs + session.intervalMin * MINUTE;
  for (const t of turns)
    if (intervalMs !== null && Math.abs(intervalMs - t.atMs) < GATHER_MIN * MINUTE) t.atMs = intervalMs;
  turns.sort((a, b) => a.atMs - b.atMs);
  while (turns.length > 0) {
    const atMs = turns[0]!.atMs;
    const gathered = turns.filter((t) => t.atMs - atMs <= GATHER_MIN * MINUTE);
    turns.splice(0, turns.length, ...turns.filter((t) => t.atMs - atMs > GATHER_MIN * MINUTE));
    const due = [...new Set(gathered.map((t) => t.string))];
    // One pair of hands: one instrument after the other.
    let turnMs = atMs;
    for (const list of byInstrument(due).values()) {
      add(
        'between',
        turnMs,
        list,
        takes(list),
        'Between pieces, in this order: they may be out of tolerance from here on.',
      );
      turnMs += takes(list) * MINUTE;
    }
  }
}

const LEAST_BETWEEN_MIN = 4;

/** How long a string at pitch keeps a chance of READY to be within tolerance, min, up to a limit. */
function holdsForMin(string: PlanString, sinceMs: number, limitMin: number, toleranceCents: number): number {
  const fit = fitAt(string, sinceMs);
  const holds = (h: number) => chanceInShow(fit, h, toleranceCents, 0) >= READY;
  if (holds(limitMin)) return limitMin;
  let low = 1;
  let high = limitMin;
  if (!holds(low)) return low;
  for (let i = 0; i < 9; i++) {
    const middle = 0.5 * (low + high);
    if (holds(middle)) low = middle;
    else high = middle;
  }
  return low;
}

/** One player has two hands: items that take time and overlap are marked, the later one. */
function markConflicts(items: PlanItem[]): void {
  const hands = items.filter((i) => ['check', 'rounds', 'last-tuning', 'between'].includes(i.what));
  let busyUntil = -Infinity;
  for (const item of hands) {
    item.conflict = item.atMs < busyUntil - MINUTE / 2;
    busyUntil = Math.max(busyUntil, item.atMs + item.minutes * MINUTE);
  }
}
