import type { PassStep } from '../guided';
import type { PassVisit, ReadingRecord, StringLife } from '../log';
import type { StringStatus } from '../status';

/** A check pass under way. Which strings are done is read from the log, so a pass survives a reload. */
export interface CheckPass {
  /** What its readings are known by; those from before readings named their pass count by their time. */
  passId?: string;
  startedMs: number;
  /** Passed over this time: strings, or the steps of another kind of pass. */
  skipped: string[];
  /** What a plan asks for; without one all strings are read and brought to pitch. */
  visit?: PassVisit;
}

/** Was a reading kept in this pass? */
export const isOfPass = (r: ReadingRecord, pass: CheckPass): boolean =>
  r.passId === undefined ? r.atMs >= pass.startedMs : r.passId === pass.passId;

/** The newest reading of an instrument that a pass has kept, to be taken back. */
export function lastKept(strings: readonly StringLife[], pass: CheckPass): ReadingRecord | undefined {
  return strings
    .flatMap((s) => s.readings.filter((r) => isOfPass(r, pass)))
    .reduce<ReadingRecord | undefined>((a, b) => (a && a.atMs > b.atMs ? a : b), undefined);
}

function lastInPass(life: Pick<StringLife, 'readings'>, pass: CheckPass): ReadingRecord | undefined {
  return life.readings.findLast((r) => isOfPass(r, pass));
}

/** How far above its target a string is left in a pass, cents. */
export const leadIn = (pass: CheckPass | undefined, stringId: string): number =>
  pass?.visit?.strings.find((s) => s.stringId === stringId)?.leadCents ?? 0;

/** Is a string that was found in a pass to be brought up there? What a plan asks for decides, or the tolerance. */
export function needsTuning(
  { stringId, cents, purpose }: ReadingRecord,
  pass: CheckPass,
  toleranceCents: number,
): boolean {
  if (purpose !== 'as-found') return false;
  return pass.visit
    ? Math.abs(cents - leadIn(pass, stringId)) >= pass.visit.bringUpFromCents
    : Math.abs(cents) > toleranceCents;
}

/** Between two pieces each string is read and brought up before the next one: there may be time for no more. */
const IN_A_HURRY = 'retune';

/**
 * Next step of a pass: first every string as found, untouched; then each that is out of tolerance is brought up.
 * A surprising reading is confirmed by a second pluck at once. A chosen string comes first. A visit of a plan has its own strings, in
 * its order.
 * @returns undefined when the pass is done
 */
export function nextStep(
  strings: readonly StringLife[],
  statuses: readonly StringStatus[],
  pass: CheckPass,
  toleranceCents: number,
): PassStep | undefined {
  const asked = pass.visit
    ? pass.visit.strings.flatMap(({ stringId }) => strings.find((s) => s.plan.stringId === stringId) ?? [])
    : strings;
  const open = asked.filter((s) => !pass.skipped.includes(s.plan.stringId));
  for (const { plan, ...s } of open) {
    const leap = statuses.find((t) => t.stringId === plan.stringId)?.leap;
    if (leap && lastInPass(s, pass)?.id === leap.readingId)
      return { stringId: plan.stringId, purpose: 'found', leapCents: leap.cents };
  }
  const off = open.find((s) => {
    const last = lastInPass(s, pass);
    return last !== undefined && needsTuning(last, pass, toleranceCents);
  });
  const unheard = open.find((s) => lastInPass(s, pass) === undefined);
  if (unheard && !(off && pass.visit?.purpose === IN_A_HURRY))
    return { stringId: unheard.plan.stringId, purpose: 'found' };
  return off && { stringId: off.plan.stringId, purpose: 'left' };
}

/** What a pass that is done has left: strings that it asked for and that were not read, and read flat or sharp ones that were not brought up. */
export function leftUndone(
  strings: readonly StringLife[],
  pass: CheckPass,
  toleranceCents: number,
): { unread: string[]; off: string[] } {
  const asked = pass.visit?.strings.map((s) => s.stringId);
  const own = strings.filter((s) => !s.bare && (asked?.includes(s.plan.stringId) ?? true));
  const last = own.map((s) => [s.plan.note, lastInPass(s, pass)] as const);
  return {
    unread: last.flatMap(([note, r]) => (r ? [] : [note])),
    off: last.flatMap(([note, r]) => (r && needsTuning(r, pass, toleranceCents) ? [note] : [])),
  };
}
