import { median } from 'simple-statistics';
import type { Bench, InstrumentLife, ReadingRecord, SessionRecord } from '../log';
import type { SettlingMaterial, SettlingPrior } from '../settling';
import { SETTLES_AS } from '../strings';
import { WALK_GAP_MIN } from './groups';
import { EFFORTS, READY_SCHOOLS, type PlanSession, type PlanString } from './types';
import { MINUTE, clamp } from '../base';
import { ageFromMs, fitLives } from '../status';

/** No string is left further above its target, cents (house). */
const PLANNED_LEAD_CENTS = 8;
/** A string found this near was left as it was, cents. */
const NEAR_CENTS = 3;
const USUAL_MINUTES = 0.7;
/** Longer from one string to the next is a pause, min (house). */
const LONGEST_STRING_MIN = 3;

type Shown = Pick<SessionRecord, 'curtainMs' | 'minutes' | 'toleranceCents'>;
type Wished = Pick<
  SessionRecord,
  'intervalMin' | 'school' | 'thereC' | 'effort' | 'leads' | 'hands' | 'plays' | 'spares' | 'skippedMs'
>;

/** A show as it was written down, for the plan; what nobody said is as usual. @param hereC temperature here, deg C */
export function planSession(
  show: Shown & { [K in keyof Wished]?: Wished[K] | undefined },
  hereC: number | null,
): PlanSession {
  const among = <T extends string>(list: readonly T[], word: string | undefined, usual: T): T =>
    list.find((l) => l === word) ?? usual;
  const { curtainMs, minutes, toleranceCents, intervalMin = null, thereC = null } = show;
  return {
    curtainMs,
    minutes,
    toleranceCents,
    intervalMin,
    thereC,
    hereC,
    school: among(READY_SCHOOLS, show.school, 'not-same-day'),
    effort: among(EFFORTS, show.effort, 'few'),
    leads: show.leads ?? true,
    hands: show.hands ?? 1,
    plays: Object.fromEntries(
      (show.plays ?? []).map(({ instrumentId, fromMin, toMin }) => [instrumentId, { fromMin, toMin }]),
    ),
    spares: show.spares ?? [],
    skippedMs: show.skippedMs ?? null,
  };
}

/** Which prior a string of an instrument starts from. */
export type PriorOf = (material: SettlingMaterial, instrumentId: string) => SettlingPrior;

/** The strings of the instruments that play, as the plan needs them. */
export function planStrings(instruments: readonly InstrumentLife[], priorOf: PriorOf): PlanString[] {
  return instruments.flatMap(({ record, strings }) => {
    const materials = new Set(strings.map((life) => SETTLES_AS[life.plan.material]));
    const { instrumentId } = record;
    const priors = Object.fromEntries([...materials].map((m) => [m, priorOf(m, instrumentId)]));
    const fits = fitLives(strings, 'at the last reading', priors);
    return strings.map((life, i): PlanString => {
      const material = SETTLES_AS[life.plan.material];
      const prior = priorOf(material, instrumentId);
      const startMs = ageFromMs(life);
      const last = life.readings[life.readings.length - 1];
      return {
        instrumentId: record.instrumentId,
        stringId: life.plan.stringId,
        note: life.plan.note,
        material,
        prior,
        startMs,
        strungMs: life.strungMs,
        lastReadMs: last?.atMs ?? null,
        fit: last && fits[i]?.fit,
        leftThere: last !== undefined && (last.purpose === 'as-left' || Math.abs(last.cents) < NEAR_CENTS),
        rounds: life.rounds.length,
        mostLeadCents: PLANNED_LEAD_CENTS,
      };
    });
  });
}

/** A walk that was done: strings of one instrument read one after the other. */
export interface DoneWalk {
  instrumentId: string;
  atMs: number;
  stringIds: string[];
  /** How many of them were brought up. */
  broughtUp: number;
}

/** The walks on record since a moment, oldest first; this is how the items of a plan tick. */
export function doneWalks(instruments: readonly InstrumentLife[], sinceMs: number): DoneWalk[] {
  return instruments
    .flatMap(({ record: { instrumentId }, strings }) =>
      walksOf(strings.flatMap((s) => s.readings).filter((r) => r.atMs >= sinceMs)).map((walk) => ({
        instrumentId,
        atMs: walk[0]!.atMs,
        stringIds: [...new Set(walk.map((r) => r.stringId))],
        broughtUp: new Set(walk.filter((r) => r.purpose === 'as-left').map((r) => r.stringId)).size,
      })),
    )
    .sort((a, b) => a.atMs - b.atMs);
}

/** Readings of one instrument parted into walks where nothing was read for ten minutes. */
function walksOf(given: readonly ReadingRecord[]): ReadingRecord[][] {
  const walks: ReadingRecord[][] = [];
  let last = -Infinity;
  for (const r of [...given].sort((a, b) => a.atMs - b.atMs)) {
    if (r.atMs - last > WALK_GAP_MIN * MINUTE) walks.push([]);
    walks[walks.length - 1]!.push(r);
    last = r.atMs;
  }
  return walks;
}

/** How long one string takes in a walk, min: the median from one string to the next over the walks on record. */
export function minutesPerString({ instruments }: Pick<Bench, 'instruments'>): number {
  const each: number[] = [];
  for (const { strings } of instruments) {
    for (const walk of walksOf(strings.flatMap((s) => s.readings))) {
      // From string to string: who goes away in between, or comes back to one string, does not work all the time.
      walk.forEach((r, i) => {
        const before = walk[i - 1];
        const gap = before && (r.atMs - before.atMs) / MINUTE;
        if (gap !== undefined && before!.stringId !== r.stringId && gap < LONGEST_STRING_MIN) each.push(gap);
      });
    }
  }
  return each.length > 0 ? clamp(median(each), 0.3, 5) : USUAL_MINUTES;
}
